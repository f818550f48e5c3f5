/** A request that cannot be done; the answer is RFC 9457 problem details. */
export class ProblemError extends Error {
  override readonly name = 'ProblemError';
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly errors?: readonly { readonly path: string; readonly message: string }[],
  ) {
    super(detail);
  }
}
export const notFound = (what: string): ProblemError => new ProblemError(404, 'Not found', `There is no ${what}.`);
export const refused = (detail: string, path?: string): ProblemError =>
  new ProblemError(422, 'Not accepted', detail, path === undefined ? undefined : [{ path, message: detail }]);
