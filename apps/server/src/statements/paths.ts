/** The statement of a view in the API. */
export const STATEMENT = '/companies/:company/statements/:view';
