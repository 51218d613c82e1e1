import { type ComponentType, useSyncExternalStore } from 'react';
import { CapturePlace } from '../places/capture/CapturePlace';
import { PatchPlace } from '../places/patch/PatchPlace';
import { SoundcheckPlace } from '../places/soundcheck/SoundcheckPlace';

export interface Place {
  id: string;
  name: string;
  icon: string;
  view: ComponentType;
}

// In the order engineers work. Icons are paths on a 24 by 24 field.
export const places: Place[] = [
  {
    id: 'patch',
    name: 'Patch',
    icon: 'M3 6c7 0 11 12 18 12M3 18C10 18 14 6 21 6M3 12h4m10 0h4',
    view: PatchPlace,
  },
  { id: 'capture', name: 'Capture', icon: 'M12 3a9 9 0 1 0 .01 0M12 9a3 3 0 1 0 .01 0', view: CapturePlace },
  {
    id: 'soundcheck',
    name: 'Soundcheck',
    icon: 'M2 12h4m12 0h4M6 12c2-5 10-5 12 0-2 5-10 5-12 0',
    view: SoundcheckPlace,
  },
];

const subscribe = (tell: () => void) => {
  window.addEventListener('hashchange', tell);
  return () => window.removeEventListener('hashchange', tell);
};

/** The place that the address names, Patch where it names none. */
export function usePlace(): Place {
  const id = useSyncExternalStore(subscribe, () => window.location.hash.replace(/^#\/?/, ''));
  const first = places[0] as Place;
  return places.find((place) => place.id === id) ?? first;
}
