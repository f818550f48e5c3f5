/** A step of the schema, run once and in order, in one transaction. */
export type Migration = { readonly name: string; readonly statements: readonly string[] };
