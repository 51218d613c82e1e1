import { QueryClient, useQuery } from '@tanstack/react-query';
import { api, Refused, type Schemas, type Show, type Take, taken } from './client';
import { withAwaited } from './echo';
import { forgetTold, learn, type ShowNews, since } from './news';
import { shareShow } from './share';

// What was refused for a reason is refused again; only what may pass is asked again.
const again = (failed: number, error: Error) => failed < 2 && !(error instanceof Refused && !error.passing);

export const queries = new QueryClient({
  defaultOptions: { queries: { staleTime: Infinity, retry: again } },
});

/** Asks again for everything that failed, such as when the application is back. */
export const askAgain = () =>
  void queries.refetchQueries({ predicate: (query) => query.state.status === 'error' });

export const SHOW = ['show'];
// What hangs on how the desk is mixed.
const HEARD = ['hearing', 'findings'];
// What follows from the open show and is read again when it changes.
const DERIVED = ['rig', 'stage', 'desk', 'journal', 'compare', 'outputs', 'playback', ...HEARD];

export interface LiveShow {
  id: number;
  version: number;
}

// The version that was asked for last. The answer to an edit and the live feed both tell of it; it is read once.
let asked: LiveShow | undefined;

/** Knows of no answer, as a page that was just opened. */
export function forgetAnswers() {
  asked = undefined;
  forgetTold();
  queries.clear();
}

/** Reads the show again unless that version of it is here or on its way; without one, in any case. */
export function refreshShow(now?: LiveShow) {
  const here = queries.getQueryData<Show>(SHOW);
  const known = [here, asked].some((one) => now && one?.id === now.id && one.version >= now.version);
  if (known) return;
  asked = now;
  void queries.invalidateQueries({ queryKey: SHOW });
  refreshDerived();
  if (here && now && here.id !== now.id) void queries.invalidateQueries({ queryKey: ['shows'] });
}

/** Takes a show that came with an answer, instead of one that is on its way; unless that is newer. */
export function takeShow(answer: Show | ShowNews) {
  const show = learn(answer);
  if (!show) return refreshShow();
  const here = queries.getQueryData<Show>(SHOW);
  const newer = [here, asked].some((one) => one?.id === show.id && one.version > show.version);
  if (here?.id !== show.id || newer) return refreshShow();
  void queries.cancelQueries({ queryKey: SHOW });
  queries.setQueryData<Show>(SHOW, withAwaited(show));
  refreshDerived();
}

const refreshDerived = () => DERIVED.forEach((key) => void queries.invalidateQueries({ queryKey: [key] }));

export const refresh = (...keys: string[]) =>
  Promise.all(keys.map((key) => queries.invalidateQueries({ queryKey: [key] })));
/** Somebody hears something else: a fader has moved. What is on its way is waited for, so that a storm of them asks no more than it must. */
export const refreshHeard = () =>
  HEARD.forEach((key) => void queries.invalidateQueries({ queryKey: [key] }, { cancelRefetch: false }));
export const refreshTakes = () => void refresh('takes', 'bin');

async function readShow(): Promise<Show> {
  const asked = since();
  const show = learn(await taken(api.GET('/api/show', { params: { query: asked } })), asked);
  if (show) return show;
  forgetTold();
  return readShow();
}

export const useShow = () =>
  useQuery({
    queryKey: SHOW,
    queryFn: async () => withAwaited(await readShow()),
    structuralSharing: (before, now) => shareShow(before as Show | undefined, now as Show),
  });
export const useRig = () => useQuery({ queryKey: ['rig'], queryFn: () => taken(api.GET('/api/rig')) });
export const useOutputs = () =>
  useQuery({ queryKey: ['outputs'], queryFn: () => taken(api.GET('/api/outputs')) });
const bySheet = (sheet: number | null) => (sheet === null ? {} : { sheet });
/** Who hears what: of the desk as it is mixed now, or by a level sheet. */
export const useHearing = (sheet: number | null) =>
  useQuery({
    queryKey: ['hearing', 'table', sheet],
    queryFn: () => taken(api.GET('/api/hearing', { params: { query: bySheet(sheet) } })),
  });
/** The levels at which channels are sent to a mix, as the desk has them. */
export const useSendLevels = (bus: number) =>
  useQuery({
    queryKey: ['hearing', 'sends', bus],
    queryFn: () => taken(api.GET('/api/levels/sends', { params: { query: { bus } } })),
  });
export const useWay = (source: string | undefined, listener: number | undefined, sheet: number | null) =>
  useQuery({
    queryKey: ['hearing', 'way', source, listener, sheet],
    enabled: source !== undefined && listener !== undefined,
    placeholderData: (before) => before,
    queryFn: () =>
      taken(
        api.GET('/api/hearing/way', {
          params: { query: { source: source ?? '', listener: listener ?? 0, ...bySheet(sheet) } },
        }),
      ),
  });
/** The running order, and where everything that is played goes. */
export const usePlayback = () =>
  useQuery({ queryKey: ['playback'], queryFn: () => taken(api.GET('/api/player')) });
export const useSongs = () => useQuery({ queryKey: ['songs'], queryFn: () => taken(api.GET('/api/songs')) });
export const songKey = (id: string | null | undefined, tonight?: { tempo: number; key_by: number }) => [
  'song',
  id,
  tonight?.tempo ?? 100,
  tonight?.key_by ?? 0,
];
/** A song, as it is or as it goes tonight. */
export const useSong = (id: string | null | undefined, tonight?: { tempo: number; key_by: number }) =>
  useQuery({
    queryKey: songKey(id, tonight),
    enabled: !!id,
    placeholderData: (before) => before,
    queryFn: () =>
      taken(
        api.GET('/api/songs/{id}', {
          params: { path: { id: id ?? '' }, query: { tempo: tonight?.tempo, key: tonight?.key_by } },
        }),
      ),
  });
/** A stem for drawing, as many columns as wanted, of all of it or a part. */
export const useStem = (
  { id, version }: { id: string; version: number },
  stem: number | undefined,
  points: number,
  part: { from: number; to: number } | null,
) =>
  useQuery({
    queryKey: ['stem', id, version, stem, points, part],
    enabled: stem !== undefined,
    placeholderData: (before) => before,
    queryFn: () =>
      taken(
        api.GET('/api/songs/{id}/waveform', {
          params: { path: { id }, query: { stem: stem ?? 0, points, ...part } },
        }),
      ),
  });
export const useFindings = () =>
  useQuery({ queryKey: ['findings'], queryFn: () => taken(api.GET('/api/findings')) });
export const useSheets = () =>
  useQuery({ queryKey: ['level-sheets'], staleTime: 0, queryFn: () => taken(api.GET('/api/level-sheets')) });
export const useTakes = () => useQuery({ queryKey: ['takes'], queryFn: () => taken(api.GET('/api/takes')) });
const UNDER_WAY = ['waiting', 'running'];
/** Exports; looked at often while one is under way. */
export const useExports = () =>
  useQuery({
    queryKey: ['exports'],
    staleTime: 0,
    refetchInterval: (query) =>
      query.state.data?.some((one) => UNDER_WAY.includes(one.state)) ? 500 : false,
    queryFn: () => taken(api.GET('/api/exports')),
  });
/** Disks that exports can go to: what is plugged in changes, so that it is asked for each time. */
export const useExportPlaces = () =>
  useQuery({
    queryKey: ['export-places'],
    staleTime: 0,
    queryFn: () => taken(api.GET('/api/export-places')),
  });
export const useSoundDevices = () =>
  useQuery({
    queryKey: ['sound-devices'],
    staleTime: 0,
    queryFn: () => taken(api.GET('/api/sound-devices')),
  });
export const useBin = () => useQuery({ queryKey: ['bin'], queryFn: () => taken(api.GET('/api/bin')) });
export const useShows = () => useQuery({ queryKey: ['shows'], queryFn: () => taken(api.GET('/api/shows')) });
export const useProfiles = () =>
  useQuery({ queryKey: ['profiles'], queryFn: () => taken(api.GET('/api/profiles')) });
export const usePresets = () =>
  useQuery({ queryKey: ['presets'], queryFn: () => taken(api.GET('/api/presets')) });

/** The roll call changes with every breath on stage; what it says is read, not watched. */
export const useRoll = () =>
  useQuery({
    queryKey: ['roll'],
    staleTime: 0,
    refetchInterval: 1000,
    queryFn: () => taken(api.GET('/api/line-check')),
  });
export const useStage = () => useQuery({ queryKey: ['stage'], queryFn: () => taken(api.GET('/api/stage')) });

// Versions count again in every show.
const shownId = () => queries.getQueryData<Show>(SHOW)?.id;

export const useStrandTrace = (id: string | undefined, version: number) =>
  useQuery({
    queryKey: ['trace', shownId(), id, version],
    enabled: !!id,
    queryFn: () => taken(api.GET('/api/strands/{id}/trace', { params: { path: { id: id ?? '' } } })),
  });

export const usePointTrace = (point: string | undefined, version: number) =>
  useQuery({
    queryKey: ['point', shownId(), point, version],
    enabled: !!point,
    queryFn: () => taken(api.GET('/api/trace', { params: { query: { point: point ?? '' } } })),
  });

export type Column =
  | 'socket_feeds'
  | 'hears_on_stage'
  | 'send'
  | 'tap'
  | 'track_input'
  | 'track_output'
  | 'return_feeds'
  | 'hears_on_take'
  | 'output_source'
  | 'output_expected'
  | 'outlet'
  | 'own_mix';

export const useChoices = (column: Column, number: number, version: number) =>
  useQuery({
    queryKey: ['choices', shownId(), column, number, version],
    queryFn: () => taken(api.GET('/api/choices', { params: { query: { column, number } } })),
  });

/** Plan beside desk. Somebody may change the desk by hand, so it is compared every second. */
export const useDesk = (enabled: boolean) =>
  useQuery({
    queryKey: ['desk'],
    enabled,
    staleTime: 0,
    refetchInterval: 1000,
    queryFn: () => taken(api.GET('/api/desk')),
  });

export const useCopy = (copy: number | null) =>
  useQuery({
    queryKey: ['desk', 'copy', copy],
    enabled: copy !== null,
    staleTime: 0,
    queryFn: () => taken(api.GET('/api/desk/copies/{copy}', { params: { path: { copy: copy ?? 0 } } })),
  });

export const useComparison = (one: string, other: string) =>
  useQuery({
    queryKey: ['compare', one, other],
    enabled: one !== '' && other !== '',
    staleTime: 0,
    queryFn: () => taken(api.GET('/api/compare', { params: { query: { one, other } } })),
  });

export type JournalEntry = Schemas['JournalEntry'];
export const journalPage = (before?: number) =>
  taken(api.GET('/api/journal', { params: { query: before ? { before } : {} } }));
export const useJournalEntry = (version: number | null) =>
  useQuery({
    queryKey: ['entry', shownId(), version],
    enabled: version !== null,
    queryFn: () => taken(api.GET('/api/journal/{version}', { params: { path: { version: version ?? 0 } } })),
  });

/** A take's loudness for drawing, as many columns as wanted, of a part of it and of one track or the loudest of all. */
export const useWaveform = (
  take: Take | undefined,
  points: number,
  part?: { from: number; to: number },
  track?: number,
) =>
  useQuery({
    queryKey: ['waveform', take?.id, take?.frames, points, part?.from, part?.to, track],
    enabled: take !== undefined,
    placeholderData: (before) => before,
    queryFn: () =>
      taken(
        api.GET('/api/takes/{take}/waveform', {
          params: {
            path: { take: take?.id ?? '' },
            query: { points, ...(part ?? {}), ...(track === undefined ? {} : { track }) },
          },
        }),
      ),
  });
