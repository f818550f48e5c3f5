import { LocalWorksheet } from './local-worksheet.ts';
import type { ViewRequest, WorksheetReply, WorksheetRequest } from './worksheet-messages.ts';

/** What a worker does with the requests of a page, one after the other. @param reply sends an answer back */
export function worksheetWorker(reply: (message: WorksheetReply) => void): (request: WorksheetRequest) => void {
  let worksheet: LocalWorksheet | null = null;
  let look: ViewRequest = { filter: {}, account: null, lineSet: null };

  function answer(request: WorksheetRequest): void {
    if (request.type === 'open') {
      worksheet = new LocalWorksheet(request.worksheet);
      look = request;
    }
    if (worksheet === null) return;
    if (request.type === 'ask') return reply({ type: 'answered', id: request.id, answer: worksheet.answer(request.question) });
    if (request.type === 'look') look = request;
    const refusals = request.type === 'edit' ? worksheet.edit(request.id, request.edits, request.filter) : [];
    if (request.type === 'resolve') worksheet.resolve(request.id, request.answer);
    reply({ type: 'shown', ...worksheet.show(look), refusals });
  }
  return (request) => {
    try {
      answer(request);
    } catch (error) {
      reply({ type: 'failed', message: error instanceof Error ? error.message : String(error) });
    }
  };
}
