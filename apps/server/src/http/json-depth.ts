import type { IncomingMessage } from 'node:http';

import { ProblemError } from './problem.ts';

const MOST_LEVELS = 60;
const [QUOTE, BACKSLASH, OPEN_BRACE, CLOSE_BRACE, OPEN_BRACKET, CLOSE_BRACKET] = [0x22, 0x5c, 0x7b, 0x7d, 0x5b, 0x5d];

/** Refuses a body nested deeper than any of ours, before it is parsed. @throws ProblemError 422 */
export function refuseDeepJson(_request: IncomingMessage, _response: unknown, body: Buffer): void {
  let [depth, inText] = [0, false];
  for (let index = 0; index < body.length; index += 1) {
    const byte = body[index];
    if (inText) {
      if (byte === BACKSLASH) index += 1;
      else if (byte === QUOTE) inText = false;
    } else if (byte === QUOTE) inText = true;
    else if (byte === OPEN_BRACE || byte === OPEN_BRACKET) {
      depth += 1;
      if (depth > MOST_LEVELS)
        throw new ProblemError(
          422,
          'Not accepted',
          `The request is nested deeper than ${MOST_LEVELS} levels. Use fewer sections inside one another.`,
        );
    } else if (byte === CLOSE_BRACE || byte === CLOSE_BRACKET) depth -= 1;
  }
}
