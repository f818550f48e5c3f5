/** A key of its own for a request, so that it counts once however often it is sent; also on a page that came without TLS. */
export const newKey = (): string => crypto.getRandomValues(new Uint32Array(4)).join('-');
