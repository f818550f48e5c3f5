/** A field of a request that is at fault. */
export type FieldFault = { readonly path: string; readonly message: string };

/** A request that cannot be done; the answer is RFC 9457 problem details. */
export class ProblemError extends Error {
  override readonly name = 'ProblemError';
  readonly #faults: FieldFault[] = [];
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
  ) {
    super(detail);
  }

  get faults(): readonly FieldFault[] {
    return this.#faults;
  }

  /** The same problem, naming fields at fault. */
  at(...faults: readonly FieldFault[]): this {
    this.#faults.push(...faults);
    return this;
  }
}
export const notFound = (what: string): ProblemError => new ProblemError(404, 'Not found', `There is no ${what}.`);
export const refused = (detail: string, path?: string): ProblemError => {
  const problem = new ProblemError(422, 'Not accepted', detail);
  return path === undefined ? problem : problem.at({ path, message: detail });
};
