import { type ComponentType, lazy, useSyncExternalStore } from 'react';
import { PatchPlace } from '../../places/patch/PatchPlace';

export interface Place {
  id: string;
  name: string;
  icon: string;
  view: ComponentType;
  bare?: boolean;
}

// The strand sheet is loaded at once; the other pages when they are opened.
const RigPlace = lazy(() => import('../../places/rig/RigPlace'));
const LineCheckPlace = lazy(() => import('../../places/linecheck/LineCheckPlace'));
const CapturePlace = lazy(() => import('../../places/capture/CapturePlace'));
const SoundcheckPlace = lazy(() => import('../../places/soundcheck/SoundcheckPlace'));
const PlaybackPlace = lazy(() => import('../../places/playback/PlaybackPlace'));
const OutputsPlace = lazy(() => import('../../places/outputs/OutputsPlace'));
const HandoverPlace = lazy(() => import('../../places/handover/HandoverPlace'));

// In the order engineers work. Icons are paths on a 24 by 24 field.
export const places: Place[] = [
  { id: 'rig', name: 'Rig', icon: 'M4 5h16v5H4zM4 14h16v5H4zM7 7.5h2m-2 9h2', view: RigPlace },
  {
    id: 'patch',
    name: 'Patch',
    icon: 'M3 6c7 0 11 12 18 12M3 18C10 18 14 6 21 6M3 12h4m10 0h4',
    view: PatchPlace,
  },
  {
    id: 'line-check',
    name: 'Line check',
    icon: 'M3 12h3l2-6 3 13 3-10 2 6 1-3h4',
    view: LineCheckPlace,
  },
  { id: 'capture', name: 'Capture', icon: 'M12 3a9 9 0 1 0 .01 0M12 9a3 3 0 1 0 .01 0', view: CapturePlace },
  {
    id: 'soundcheck',
    name: 'Soundcheck',
    icon: 'M2 12h4m12 0h4M6 12c2-5 10-5 12 0-2 5-10 5-12 0',
    view: SoundcheckPlace,
  },
  {
    id: 'playback',
    name: 'Playback',
    icon: 'M4 7h16M4 12h9m-9 5h6M16 11v7l5-3.5z',
    view: PlaybackPlace,
  },
  {
    id: 'outputs',
    name: 'Outputs',
    icon: 'M4 9v6h4l5 4V5L8 9zM16 9c2 2 2 4 0 6m3-9c4 4 4 8 0 12',
    view: OutputsPlace,
  },
  { id: 'handover', name: 'Handover', icon: 'M6 3h9l4 4v14H6zM14 3v5h5M9 12h7m-7 4h7', view: HandoverPlace },
];

/** For a telephone on stage: a page on its own, without rail and band. */
const stage: Place = {
  id: 'stage',
  name: 'Stage',
  icon: '',
  view: lazy(() => import('../../places/stage/StagePlace')),
  bare: true,
};

/** For a tablet on stage: what plays, big. */
const song: Place = {
  id: 'stage/song',
  name: 'Song',
  icon: '',
  view: lazy(() => import('../../places/playback/StageSong')),
  bare: true,
};

const subscribe = (tell: () => void) => {
  window.addEventListener('hashchange', tell);
  return () => window.removeEventListener('hashchange', tell);
};

const FIRST = 'patch';

/** The place that the address names, Patch where it names none. */
export function usePlace(): Place {
  const id = useSyncExternalStore(subscribe, () => window.location.hash.replace(/^#\/?/, ''));
  return ([...places, stage, song].find((place) => place.id === id) ??
    places.find((place) => place.id === FIRST)) as Place;
}
