import type { DeskReply, DeskRequest, Look } from './worksheet-messages.ts';
import { LocalDesk } from './local-worksheet.ts';

/** What a worker does with the requests of a page, one after the other. @param reply sends an answer back */
export function deskWorker(reply: (message: DeskReply) => void): (request: DeskRequest) => void {
  let desk: LocalDesk | null = null;
  let look: Look = { filter: {}, account: null, lineSet: null };

  function answer(request: DeskRequest): void {
    if (request.type === 'open') {
      desk = new LocalDesk(request.desk);
      look = request;
    }
    if (desk === null) return;
    if (request.type === 'ask') return reply({ type: 'answered', id: request.id, answer: desk.answer(request.question) });
    if (request.type === 'look') look = request;
    const refusals = request.type === 'edit' ? desk.edit(request.id, request.edits, request.filter) : [];
    if (request.type === 'settle') desk.settle(request.id, request.answer);
    reply({ type: 'shown', ...desk.show(look), refusals });
  }
  return (request) => {
    try {
      answer(request);
    } catch (error) {
      reply({ type: 'failed', message: error instanceof Error ? error.message : String(error) });
    }
  };
}
