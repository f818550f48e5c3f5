declare module 'fast-formula-parser' {
  type Place = { readonly sheet: string; readonly row: number; readonly col: number };
  export default class FormulaParser {
    constructor(options: { readonly onCell: (place: Place) => unknown });
    parse(formula: string, place: Place): unknown;
  }
}
