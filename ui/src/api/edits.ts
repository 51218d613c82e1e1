import { useMutation } from '@tanstack/react-query';
import { announce } from './announce';
import { api, type Edited, type Preview, Refused, type Settings, type Show, taken } from './client';
import { awaitAnswer, echo } from './echo';
import { since } from './news';
import { tell } from './notices';
import { type LiveShow, queries, refreshShow, SHOW, takeShow } from './queries';

/** Says what went wrong; a stale edit can be made again. */
export function complain(error: unknown, again?: () => void) {
  const refused = error instanceof Refused ? error : new Refused(undefined, 0);
  if (refused.stale) refreshShow();
  const action = refused.stale && again ? { label: 'Apply again', run: again } : undefined;
  tell({ kind: 'error', text: refused.message, ...(action ? { action } : {}) });
}

function told(edited: Edited): Edited {
  const id = queries.getQueryData<Show>(SHOW)?.id;
  if (edited.show) takeShow(edited.show);
  else refreshShow(id === undefined ? undefined : { id, version: edited.version });
  announce(edited.said);
  const [first, ...more] = edited.desk_problems;
  if (first) tell({ kind: 'error', text: more.length > 0 ? `${first} (and ${more.length} more)` : first });
  return edited;
}

/** Against which version of which show an edit is made. */
interface Against {
  version: number | null;
  show: number | null;
}

// What this browser's own last edit made, by show. The show is read again after it; until then the next edit builds on this.
const own = new Map<number, number>();

function against(): Against {
  const shown = queries.getQueryData<Show>(SHOW);
  if (!shown) return { version: null, show: null };
  return { version: Math.max(shown.version, own.get(shown.id) ?? 0), show: shown.id };
}

/** Requests the changed show along with the answer to an edit. */
type Wish = { params?: { header: { Prefer: 'return=representation' }; query: { since?: string } } };
const withShow = (): Wish => ({ params: { header: { Prefer: 'return=representation' }, query: since() } });

type Send = (against: Against, wish: Wish) => Promise<Edited>;

// Edits go one behind the other: none meets a version that another one of this browser has just made. One that gets no answer for this long
// holds up no more.
const PATIENCE_MS = 60_000;
let last: Promise<unknown> = Promise.resolve();
// Those that were stale one behind the other since somebody's edit came in between.
let stale: Send[] = [];

/** Knows of no edit, as a page that was just opened. */
export function forgetEdits() {
  own.clear();
  stale = [];
}

// Those that have not begun.
let queued = 0;

/** Does something once every edit so far has its answer, and before the next one. */
export function inTurn<T>(job: () => Promise<T>): Promise<T> {
  queued += 1;
  const done = last.then(() => {
    queued -= 1;
    return job();
  });
  last = done.catch(() => undefined);
  return done;
}

// The live feed tells of an edit before its answer is here, which brings the show as well. One that takes longer is not waited for.
const SHORTLY_MS = 500;

/** Reads the show again when the live feed says that it has changed, unless an edit of this browser brings it. */
export async function hearShow(now?: LiveShow) {
  const late = new Promise((resolve) => setTimeout(resolve, SHORTLY_MS));
  if (now) await Promise.race([last, late]);
  refreshShow(now);
}

/** Sends an edit made against the version on this screen, and what this browser has changed itself since. */
export function edit(send: Send): Promise<boolean> {
  const seen = against();
  return inTurn(() => attempt(send, seen));
}

async function attempt(send: Send, seen: Against, onStale?: (refused: Refused) => void): Promise<boolean> {
  const base = built(seen);
  try {
    const edited = told(await inTime(send(base, queued === 0 ? withShow() : {})));
    if (base.show !== null) own.set(base.show, edited.version);
    stale = []; // those before are still those of their own notice
    return true;
  } catch (error) {
    if (error instanceof Refused && error.stale) {
      if (onStale) {
        refreshShow();
        onStale(error);
        return false;
      }
      stale.push(send);
    }
    const together = stale;
    complain(error, () => together.splice(0).forEach((one) => void edit(one)));
    return false;
  }
}

function built({ version, show }: Against): Against {
  return show === null || version === null
    ? { version, show }
    : { version: Math.max(version, own.get(show) ?? 0), show };
}

function inTime<T>(answer: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    const late = setTimeout(() => reject(new Refused(undefined, 0)), PATIENCE_MS);
    answer.then(resolve, reject).finally(() => clearTimeout(late));
  });
}

/** Sets settings. Names and the like are seen at once; a refusal brings the truth back. */
export async function set(settings: Settings, label?: string): Promise<boolean> {
  const answered = awaitAnswer(settings);
  // Before its answer is taken: the application may have made something else of it.
  const sending = edit((base, wish) =>
    taken(
      api.POST('/api/edits', { ...wish, body: { ...base, settings, ...(label ? { label } : {}) } }),
    ).finally(answered),
  );
  queries.setQueryData<Show>(SHOW, (show) => show && echo(show, settings));
  const done = await sending;
  answered();
  if (!done) refreshShow();
  return done;
}

export type StepKind = NonNullable<
  import('./schema').paths['/api/steps']['post']['requestBody']['content']['application/json']['kind']
>;
export type StepOptions = Record<string, unknown>;

const NOTHING = { kind: 'info', text: 'Nothing to change; it is already set this way.' } as const;

/** Takes a step that the core computes, without looking at it first. */
export const step = (kind: StepKind, options: StepOptions = {}) =>
  edit(async (base, wish) => {
    const edited = await taken(api.POST('/api/steps', { ...wish, body: { ...base, kind, options } }));
    if (edited.changes.length === 0) tell(NOTHING);
    return edited;
  });

const preview = (kind: StepKind, options: StepOptions): Promise<Preview> =>
  inTime(taken(api.POST('/api/steps/preview', { body: { kind, options } })));

export const previewStep = (kind: StepKind, options: StepOptions = {}): Promise<Preview> =>
  inTurn(() => preview(kind, options));

/** Sets what a preview showed, against the version that it was made for, and no other. */
export const takePreview = (shown: Preview, onStale: (refused: Refused) => void): Promise<boolean> =>
  inTurn(() => attempt(asShown(shown), against(), onStale));

function asShown({ version, settings, label }: Preview): Send {
  let first = true;
  return (base, wish) => {
    const body = { ...base, ...(first ? { version } : {}), settings, label: label.slice(0, 200) };
    first = false;
    return taken(api.POST('/api/edits', { ...wish, body }));
  };
}

/** Previews a step and takes it at once, unless something speaks against it: nothing of this browser comes in between. */
export const stepUnless = (
  kind: StepKind,
  options: StepOptions,
  asks: (shown: Preview) => boolean,
): Promise<{ shown: Preview; done: boolean | null }> =>
  inTurn(async () => {
    const shown = await preview(kind, options);
    if (shown.changes.length === 0) {
      tell(NOTHING);
      return { shown, done: true };
    }
    return { shown, done: asks(shown) ? null : await attempt(asShown(shown), against()) };
  });

/** Flips in the newest version, whatever else has changed: the way back must never be refused. */
export async function flip(
  to: 'stage' | 'take',
  only: { channels?: number[]; take?: string } = {},
): Promise<void> {
  try {
    told(await taken(api.POST('/api/flip', { body: { to, ...only } })));
  } catch (error) {
    complain(error);
  }
}

export const undo = () => edit((base, wish) => taken(api.POST('/api/undo', { ...wish, body: base })));
export const redo = () => edit((base, wish) => taken(api.POST('/api/redo', { ...wish, body: base })));
export const readDesk = (paths: string[] | null) =>
  edit(({ version }, wish) => taken(api.POST('/api/desk/read', { ...wish, body: { version, paths } })));

/** A command whose failure is told. */
export function useCommand<V, R = unknown>(run: (value: V) => Promise<R>) {
  return useMutation({ mutationFn: run, onError: (error) => complain(error) });
}
