import { useEffect, useRef } from 'react';

// A setting that somebody wants to edit, for the page that edits it.
export type JumpPlace = 'rig' | 'patch' | 'outputs';

let wanted: { place: JumpPlace; setting: string } | null = null;
const watchers = new Set<() => void>();

const AT_RIG = /^(box|rig|setup)\//;
const AT_OUTPUTS = /^(sends|output|outlet|bus|personal|listener|wish)\//;

function go(place: JumpPlace, setting: string) {
  wanted = { place, setting };
  window.location.hash = `#/${place}`;
  watchers.forEach((watch) => watch());
}

/** Opens the place where a setting is changed, at that setting. */
export const jumpTo = (setting: string) =>
  go(AT_RIG.test(setting) ? 'rig' : AT_OUTPUTS.test(setting) ? 'outputs' : 'patch', setting);

/** A port of the sheet is sought by this instead of a setting. */
export const PORT = 'port:';

/** Shows a port on the sheet. */
export const showPort = (id: string) => go('patch', `${PORT}${id}`);

/** Takes the settings that lead to a place, also one that was on its way before the place was there. */
export function useJump(place: JumpPlace, take: (setting: string) => void) {
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  useEffect(() => {
    const deliver = () => {
      if (wanted?.place !== place) return;
      const { setting } = wanted;
      wanted = null;
      latest.current(setting);
    };
    watchers.add(deliver);
    const first = requestAnimationFrame(deliver);
    return () => {
      watchers.delete(deliver);
      cancelAnimationFrame(first);
    };
  }, [place]);
}
