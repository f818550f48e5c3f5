/** A unique key for a request, so that it counts once however often it is sent. It is made on pages without TLS, too. */
export const newKey = (): string => crypto.getRandomValues(new Uint32Array(4)).join('-');
