import {
  type BudgetEditDto,
  type FilterDto,
  type GridDto,
  type Problem,
  type WorksheetAnswerDto,
  type WorksheetDto,
} from '@wise-margin/contract';
import { unpackGrid, withChanges } from '@wise-margin/presentation';

import { ApiProblem, getJson, queryText, sendJson } from '../../api/client.ts';
import { newKey } from '../../api/new-key.ts';
import { forgetUnsaved, keepUnsaved, ownSession, readUnsaved, type Unsaved } from './unsaved.ts';
import type {
  BasisTry,
  Previewed,
  Question,
  Questions,
  ShownWorksheet,
  ViewRequest,
  WorksheetReply,
  WorksheetRequest,
} from './worksheet-messages.ts';

export type SaveState =
  | { readonly kind: 'saved' }
  | { readonly kind: 'saving' }
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'unsaved'; readonly message: string }
  /** another place changed the same cells: whose stand is asked */
  | { readonly kind: 'asked'; readonly problem: Problem };
export type WorksheetView = {
  readonly grid: GridDto;
  readonly held: NonNullable<ShownWorksheet['held']>;
  readonly notes: NonNullable<ShownWorksheet['notes']>;
  readonly row: ShownWorksheet['row'];
  readonly summary: ShownWorksheet['summary'];
  readonly outside: ShownWorksheet['outside'];
  readonly circle: ShownWorksheet['circle'];
};
export type WorksheetSnapshot = {
  /** null until the worker has computed it */
  readonly view: WorksheetView | null;
  readonly save: SaveState;
  readonly refusals: ShownWorksheet['refusals'];
  readonly steps: WorksheetDto['steps'];
  /** what others saved meanwhile */
  readonly others: readonly string[];
  /** amounts entered in this window that others replaced */
  readonly replaced: WorksheetAnswerDto['replaced'];
  readonly state: WorksheetDto['budget']['state'];
  /** what of the last undo or redo stayed as another change left it, in words */
  readonly notUndone: string | null;
};
type Step = 'undo' | 'redo' | 'rederive';
type Waiting = Unsaved & { readonly id: number };

const RETRY_MS = 3000;
const POLL_MS = 4000;
const SAVE_AFTER_MS = 50;
// what a budget showed last: shown until it is computed on books that changed meanwhile
let shownLast: { readonly budget: number; readonly view: WorksheetView } | null = null;
const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/**
 * A budget at work in this browser. Edits are computed in a worker and shown at once; they are saved one
 * after the other behind it. Without a connection they wait, also over a reload; what others save comes in
 * by itself.
 */
export class WorksheetSession {
  readonly #company: number;
  readonly #budget: number;
  readonly #at: string;
  readonly #worksheet: WorksheetDto;
  readonly #person = ownSession();
  readonly #saved: () => void;
  readonly #listeners = new Set<() => void>();
  readonly #asked = new Map<number, (answer: Questions[keyof Questions]['answer']) => void>();
  #snapshot: WorksheetSnapshot;
  #look: ViewRequest = { filter: {}, account: null, lineSet: null };
  #worker: Worker | null = null;
  #poll: ReturnType<typeof setInterval> | undefined;
  #retry: ReturnType<typeof setTimeout> | undefined;
  #queue: Waiting[] = [];
  /** asked for and not answered yet; each is sent after the edits before it, under one key until its answer comes */
  readonly #steps: { readonly which: Step; readonly key: string }[] = [];
  #version: number;
  #nextId = 1;
  #isBusy = false;
  /** the edit that was given up for another person's; its place is shown as they left it once the server says so */
  #givenUp: string | null = null;

  /** @param saved called after something was saved, for what else is drawn from the budget */
  constructor(options: { readonly company: number; readonly worksheet: WorksheetDto; readonly saved: () => void }) {
    const { company, worksheet, saved } = options;
    this.#company = company;
    this.#budget = worksheet.budget.id;
    this.#at = `/companies/${company}/budgets/${worksheet.budget.id}`;
    this.#worksheet = worksheet;
    this.#saved = saved;
    this.#version = worksheet.version;
    this.#snapshot = {
      view: shownLast?.budget === worksheet.budget.id ? shownLast.view : null,
      save: { kind: 'saved' },
      refusals: [],
      steps: worksheet.steps,
      others: [],
      replaced: [],
      state: worksheet.budget.state,
      notUndone: null,
    };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly snapshot = (): WorksheetSnapshot => this.#snapshot;

  /** Opens the worker, takes up what was not saved, and watches for what others save. */
  start(look: ViewRequest): void {
    this.#worker = new Worker(new URL('./worksheet.worker.ts', import.meta.url), { type: 'module' });
    this.#worker.onmessage = ({ data }: MessageEvent<WorksheetReply>) => this.#receive(data);
    this.#look = look;
    this.#tell({ type: 'open', worksheet: this.#worksheet, ...look });
    this.#queue = readUnsaved(this.#company, this.#budget).map((unsaved) => ({ ...unsaved, id: this.#nextId++ }));
    for (const { id, edits, filter } of this.#queue) this.#tell({ type: 'edit', id, edits, filter });
    if (this.#queue.length > 0) void this.#drain();
    this.#poll = setInterval(() => this.#lookForOthers(), POLL_MS);
    window.addEventListener('beforeunload', this.#warn);
    window.addEventListener('online', this.#reconnect);
  }

  stop(): void {
    shownLast = null;
    this.#worker?.terminate();
    this.#worker = null;
    clearInterval(this.#poll);
    clearTimeout(this.#retry);
    window.removeEventListener('beforeunload', this.#warn);
    window.removeEventListener('online', this.#reconnect);
  }

  /** Looks at another slice or line. */
  look(look: ViewRequest): void {
    this.#look = look;
    this.#tell({ type: 'look', ...look });
  }

  apply(edits: readonly BudgetEditDto[]): void {
    if (edits.length === 0) return;
    this.#applyIn(this.#look.filter as FilterDto, edits);
  }

  /** Enters amounts again that others replaced. */
  restore(replaced: WorksheetAnswerDto['replaced']): void {
    for (const { filter, account, month, mine } of replaced) this.#applyIn(filter, [{ kind: 'month', account, month, text: mine }]);
    this.#set({ replaced: [] });
  }

  #applyIn(filter: FilterDto, edits: readonly BudgetEditDto[]): void {
    const waiting: Waiting = { id: this.#nextId++, edits, filter, key: newKey(), base: this.#version, at: Date.now() };
    if (this.#snapshot.refusals.length > 0 || this.#snapshot.notUndone !== null) this.#set({ refusals: [], notUndone: null });
    this.#tell({ type: 'edit', id: waiting.id, edits, filter: waiting.filter });
    this.#queue.push(waiting);
    keepUnsaved(this.#company, this.#budget, waiting);
    // what was typed is drawn first; it is stored already
    setTimeout(() => void this.#drain(), SAVE_AFTER_MS);
  }

  /** Answers what was asked: mine are written over theirs, or theirs stand and mine go. */
  async settleConflict(keepMine: boolean): Promise<void> {
    if (keepMine) return this.#drain(true);
    const [mine] = this.#queue;
    if (!mine) return;
    this.#givenUp = mine.key;
    // a page that is opened before the connection is back does not send it
    forgetUnsaved(this.#company, this.#budget, mine.key);
    await this.#drain();
  }

  /** Takes the newest change back, makes it again, or derives every line again; once all edits are saved. */
  async step(which: Step): Promise<void> {
    this.#steps.push({ which, key: newKey() });
    await this.#stepOn();
  }

  /** What a basis would give, before it is set. */
  readonly tryBasis = (asked: BasisTry): Promise<Previewed> => this.ask('basis', asked);

  /** Asks the worker something that changes nothing. */
  readonly ask = <Kind extends keyof Questions>(kind: Kind, asked: Questions[Kind]['asked']): Promise<Questions[Kind]['answer']> =>
    new Promise((resolve) => {
      const id = this.#nextId++;
      this.#asked.set(id, (answer) => resolve(answer as Questions[Kind]['answer']));
      this.#tell({ type: 'ask', id, question: { kind, asked } as Question });
    });

  /** Takes in what was saved meanwhile, at once. */
  refresh(): void {
    this.#lookForOthers();
  }
  setState(state: WorksheetSnapshot['state']): void {
    this.#set({ state });
  }
  dismissRefusals(): void {
    this.#set({ refusals: [] });
  }
  dismissOthers(): void {
    this.#set({ others: [], replaced: [] });
  }

  #set(part: Partial<WorksheetSnapshot>): void {
    this.#snapshot = { ...this.#snapshot, ...part };
    for (const listener of this.#listeners) listener();
  }

  #tell(request: WorksheetRequest): void {
    this.#worker?.postMessage(request);
  }

  #receive(reply: WorksheetReply): void {
    if (reply.type === 'answered') {
      this.#asked.get(reply.id)?.(reply.answer);
      this.#asked.delete(reply.id);
    } else if (reply.type === 'failed') this.#set({ save: { kind: 'refused', message: reply.message } });
    else {
      const { row, summary, outside, circle, refusals } = reply;
      const { view } = this.#snapshot;
      const grid = reply.grid ? unpackGrid(reply.grid) : view && withChanges(view.grid, reply.changes);
      const held = reply.held ?? view?.held;
      const notes = reply.notes ?? view?.notes;
      if (grid && held && notes) {
        const shown = { grid, held, notes, row, summary, outside, circle };
        shownLast = { budget: this.#budget, view: shown };
        this.#set({ view: shown, ...(refusals.length > 0 ? { refusals } : {}) });
      }
    }
  }

  #take(id: number | null, answer: WorksheetAnswerDto | null): void {
    if (answer) {
      const { version, steps, state, others, replaced } = answer;
      this.#version = version;
      this.#set({ steps, state, ...(others.length > 0 ? { others } : {}), ...(replaced.length > 0 ? { replaced } : {}) });
    }
    this.#tell({ type: 'resolve', id, answer });
  }

  #since(): Promise<WorksheetAnswerDto> {
    return getJson<WorksheetAnswerDto>(`${this.#at}/changes${queryText({ since: this.#version, session: this.#person })}`);
  }

  #lookForOthers(): void {
    if (this.#isBusy || this.#queue.length > 0 || document.hidden) return;
    this.#since().then(
      (answer) => {
        if (!this.#isBusy && answer.version > this.#version) this.#take(null, answer);
      },
      // the next look asks again; an edit tells when the connection is lost
      () => undefined,
    );
  }

  /** @param anyway whether the first of them is written over what others changed */
  async #drain(anyway = false): Promise<void> {
    if (this.#isBusy) return;
    this.#isBusy = true;
    let isAnyway = anyway;
    let refusal: string | null = null;
    while (this.#queue.length > 0) {
      const { id, edits, filter, key, base: lookedAt } = this.#queue[0]!;
      const base = isAnyway ? undefined : Math.min(lookedAt, this.#version);
      this.#set({ save: { kind: 'saving' } });
      try {
        if (this.#givenUp === key) {
          const theirs = await this.#since();
          this.#givenUp = null;
          this.#queue.shift();
          this.#take(id, theirs);
          continue;
        }
        const answer = await sendJson<WorksheetAnswerDto>('POST', `${this.#at}/edits`, { edits, filter, session: this.#person, base, key });
        isAnyway = false;
        this.#queue.shift();
        this.#take(id, answer);
      } catch (error) {
        if (error instanceof ApiProblem && error.isConnection) return this.#wait();
        if (error instanceof ApiProblem && error.problem.title === 'Changed by someone else') {
          this.#isBusy = false;
          return this.#set({ save: { kind: 'asked', problem: error.problem } });
        }
        // what the worker refused already is listed; the server says the same
        const isListed = error instanceof ApiProblem && error.problem.status === 422 && this.#snapshot.refusals.length > 0;
        if (!isListed) refusal = wordsOf(error);
        this.#queue.shift();
        this.#take(id, null);
      }
      // a page that was left leaves what is stored to the next one, which sends it under the same key
      if (this.#worker !== null) forgetUnsaved(this.#company, this.#budget, key);
    }
    this.#isBusy = false;
    this.#set({ save: refusal === null ? { kind: 'saved' } : { kind: 'refused', message: refusal } });
    this.#saved();
    await this.#stepOn();
  }

  /** Takes the steps asked for, once all edits before them are saved. */
  async #stepOn(): Promise<void> {
    const [next] = this.#steps;
    if (!next || this.#isBusy || this.#queue.length > 0) return;
    this.#isBusy = true;
    this.#set({ save: { kind: 'saving' } });
    try {
      const request = { session: this.#person, key: next.key, base: this.#version };
      const answer = await sendJson<WorksheetAnswerDto>('POST', `${this.#at}/${next.which}`, request);
      this.#take(null, answer);
      const { notUndone } = answer;
      const words = notUndone === 1 ? '1 amount was' : `${notUndone} amounts were`;
      this.#set({
        save: { kind: 'saved' },
        notUndone: notUndone > 0 ? `${words} changed since then and ${notUndone === 1 ? 'was' : 'were'} not undone.` : null,
      });
    } catch (error) {
      if (error instanceof ApiProblem && error.isConnection) return this.#wait();
      this.#set({ save: { kind: 'refused', message: wordsOf(error) } });
    }
    this.#steps.shift();
    this.#isBusy = false;
    this.#saved();
    await this.#stepOn();
  }

  #wait(): void {
    const waiting = this.#queue.length + this.#steps.length;
    const words = waiting === 1 ? '1 change is' : `${waiting} changes are`;
    this.#set({
      save: {
        kind: 'unsaved',
        message: `${words} not saved because the connection is lost. ${waiting === 1 ? 'It' : 'They'} will be saved when the connection is back.`,
      },
    });
    this.#isBusy = false;
    // what waits is kept by the browser: a page that was left does not send it, the next one does
    if (this.#worker !== null) this.#retry = setTimeout(() => void this.#drain(), RETRY_MS);
  }

  /** The browser tells when its own connection is back; a server that was away is found by the next try. */
  readonly #reconnect = (): void => {
    if (this.#queue.length + this.#steps.length === 0) return;
    clearTimeout(this.#retry);
    void this.#drain();
  };

  readonly #warn = (event: BeforeUnloadEvent): void => {
    if (this.#queue.length > 0) event.preventDefault();
  };
}
