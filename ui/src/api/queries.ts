import { QueryClient, useMutation, useQuery } from '@tanstack/react-query';
import { api, type Edited, Refused, type Settings, type Show, taken } from './client';
import { tell } from './notices';

export const queries = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity, retry: 2 } } });

const SHOW = ['show'];

/** Reads the show anew unless that version is here. */
export function refreshShow(version: number) {
  if (queries.getQueryData<Show>(SHOW)?.version === version) return;
  void queries.invalidateQueries({ queryKey: SHOW });
  void queries.invalidateQueries({ queryKey: ['differences'] });
}

export const refreshTakes = () => void queries.invalidateQueries({ queryKey: ['takes'] });

export const useShow = () => useQuery({ queryKey: SHOW, queryFn: () => taken(api.GET('/api/show')) });
export const useTakes = () => useQuery({ queryKey: ['takes'], queryFn: () => taken(api.GET('/api/takes')) });

export const useTrace = (id: string | undefined, version: number | undefined) =>
  useQuery({
    queryKey: ['trace', id, version],
    enabled: !!id,
    queryFn: () => taken(api.GET('/api/strands/{id}/trace', { params: { path: { id: id ?? '' } } })),
  });

export const useChoices = (column: Column, number: number, version: number) =>
  useQuery({
    queryKey: ['choices', column, number, version],
    queryFn: () => taken(api.GET('/api/choices', { params: { query: { column, number } } })),
  });

export type Column =
  | 'socket_feeds'
  | 'hears_on_stage'
  | 'send'
  | 'tap'
  | 'track_input'
  | 'track_output'
  | 'return_feeds'
  | 'hears_on_take';

export const useDifferences = (enabled: boolean) =>
  useQuery({
    queryKey: ['differences'],
    enabled,
    staleTime: 0,
    queryFn: () => taken(api.GET('/api/desk/differences')),
  });

export const useOverview = (take: number | undefined, frames: number | undefined) =>
  useQuery({
    queryKey: ['overview', take, frames],
    enabled: take !== undefined,
    queryFn: () =>
      taken(
        api.GET('/api/takes/{take}/overview', {
          params: { path: { take: String(take) }, query: { points: 600 } },
        }),
      ),
  });

/** Says what went wrong; a stale edit can be made again. */
function complain(error: unknown, again?: () => void) {
  const refused = error instanceof Refused ? error : new Refused(undefined, 0);
  if (refused.stale) refreshShow(-1);
  const action = refused.stale && again ? { label: 'Apply again', run: again } : undefined;
  tell({ kind: 'error', text: refused.message, ...(action ? { action } : {}) });
}

function told(edited: Edited): Edited {
  refreshShow(edited.version);
  if (edited.desk_problems.length > 0) {
    const more = edited.desk_problems.length - 1;
    tell({ kind: 'error', text: `${edited.desk_problems[0]}${more > 0 ? ` (and ${more} more)` : ''}` });
  }
  return edited;
}

type Send = (version: number | undefined) => Promise<Edited>;

// What this browser's own last edit made. The show is read anew after it; until then the next edit builds on this.
let ownVersion = 0;

/** Sends an edit made against the version on this screen. */
export async function edit(send: Send): Promise<boolean> {
  try {
    const shown = queries.getQueryData<Show>(SHOW)?.version;
    const edited = told(await send(shown === undefined ? undefined : Math.max(shown, ownVersion)));
    ownVersion = edited.version;
    return true;
  } catch (error) {
    complain(error, () => void edit((version) => send(version)));
    return false;
  }
}

export const set = (settings: Settings, label?: string) =>
  edit((version) =>
    taken(
      api.POST('/api/edits', { body: { version: version ?? null, settings, ...(label ? { label } : {}) } }),
    ),
  );

export type RunColumn = 'socket' | 'send' | 'track_input' | 'track_output' | 'return';
export const runStraight = (run: { column: RunColumn; first: number; count: number; start: number }) =>
  edit((version) => taken(api.POST('/api/run-straight', { body: { ...run, version: version ?? null } })));

/** Flips in the newest version, whatever else has changed: the way back must never be refused. */
export async function flip(to: 'stage' | 'take', channels?: number[]): Promise<void> {
  try {
    told(await taken(api.POST('/api/flip', { body: { to, ...(channels ? { channels } : {}) } })));
  } catch (error) {
    complain(error);
  }
}

export const undo = () =>
  edit((version) => taken(api.POST('/api/undo', { body: { version: version ?? null } })));
export const redo = () =>
  edit((version) => taken(api.POST('/api/redo', { body: { version: version ?? null } })));
export const readDesk = () =>
  edit((version) => taken(api.POST('/api/desk/read', { body: { version: version ?? null } })));

/** A command to desk or recorder whose failure is told. */
export function useCommand<V>(run: (value: V) => Promise<unknown>) {
  return useMutation({ mutationFn: run, onError: (error) => complain(error) });
}
