import { useMutation } from '@tanstack/react-query';
import { api, type Edited, type Preview, Refused, type Settings, type Show, taken } from './client';
import { echo } from './echo';
import { tell } from './notices';
import { queries, refreshShow, SHOW } from './queries';

/** Says what went wrong; a stale edit can be made again. */
export function complain(error: unknown, again?: () => void) {
  const refused = error instanceof Refused ? error : new Refused(undefined, 0);
  if (refused.stale) refreshShow();
  const action = refused.stale && again ? { label: 'Apply again', run: again } : undefined;
  tell({ kind: 'error', text: refused.message, ...(action ? { action } : {}) });
}

function told(edited: Edited): Edited {
  const id = queries.getQueryData<Show>(SHOW)?.id;
  refreshShow(id === undefined ? undefined : { id, version: edited.version });
  const [first, ...more] = edited.desk_problems;
  if (first) tell({ kind: 'error', text: more.length > 0 ? `${first} (and ${more.length} more)` : first });
  return edited;
}

/** Against which version of which show an edit is made. */
interface Against {
  version: number | null;
  show: number | null;
}

// What this browser's own last edit made, by show. The show is read anew after it; until then the next edit builds on this.
const own = new Map<number, number>();

function against(): Against {
  const shown = queries.getQueryData<Show>(SHOW);
  if (!shown) return { version: null, show: null };
  return { version: Math.max(shown.version, own.get(shown.id) ?? 0), show: shown.id };
}

/** Sends an edit made against the version on this screen. */
export async function edit(send: (against: Against) => Promise<Edited>): Promise<boolean> {
  const base = against();
  try {
    const edited = told(await send(base));
    if (base.show !== null) own.set(base.show, edited.version);
    return true;
  } catch (error) {
    complain(error, () => void edit(send));
    return false;
  }
}

/** Sets settings. Names and the like are seen at once; a refusal brings the truth back. */
export async function set(settings: Settings, label?: string): Promise<boolean> {
  const sending = edit((base) =>
    taken(api.POST('/api/edits', { body: { ...base, settings, ...(label ? { label } : {}) } })),
  );
  queries.setQueryData<Show>(SHOW, (show) => show && echo(show, settings));
  const done = await sending;
  if (!done) refreshShow();
  return done;
}

export type StepKind = NonNullable<
  import('./schema').paths['/api/steps']['post']['requestBody']['content']['application/json']['kind']
>;
export type StepOptions = Record<string, unknown>;

/** Takes a step that the core computes, without looking at it first. */
export const step = (kind: StepKind, options: StepOptions = {}) =>
  edit((base) => taken(api.POST('/api/steps', { body: { ...base, kind, options } })));

export const previewStep = (kind: StepKind, options: StepOptions = {}): Promise<Preview> =>
  taken(api.POST('/api/steps/preview', { body: { kind, options } }));

/** Sets what a preview showed, against the version that it was made for; again, against the newest. */
export function takePreview({ version, settings, label }: Preview) {
  let first = true;
  return edit((base) => {
    const body = { ...base, ...(first ? { version } : {}), settings, label: label.slice(0, 200) };
    first = false;
    return taken(api.POST('/api/edits', { body }));
  });
}

/** Flips in the newest version, whatever else has changed: the way back must never be refused. */
export async function flip(to: 'stage' | 'take', channels?: number[]): Promise<void> {
  try {
    told(await taken(api.POST('/api/flip', { body: { to, ...(channels ? { channels } : {}) } })));
  } catch (error) {
    complain(error);
  }
}

export const undo = () => edit((base) => taken(api.POST('/api/undo', { body: base })));
export const redo = () => edit((base) => taken(api.POST('/api/redo', { body: base })));
export const readDesk = (paths: string[] | null) =>
  edit(({ version }) => taken(api.POST('/api/desk/read', { body: { version, paths } })));

/** A command whose failure is told. */
export function useCommand<V, R = unknown>(run: (value: V) => Promise<R>) {
  return useMutation({ mutationFn: run, onError: (error) => complain(error) });
}
