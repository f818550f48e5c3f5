const NAMES: Readonly<Record<string, string>> = { party: 'Customer or vendor', source: 'Source journal' };
/** A dimension as headings and labels name it. */
export const dimensionName = (name: string): string => NAMES[name] ?? name[0]!.toUpperCase() + name.slice(1);
