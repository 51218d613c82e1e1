import type { Track } from '../../api/client';
import { set } from '../../api/edits';
import { count } from '../../look/format';
import { HISTORY, history } from '../../meters/levels';

// A track above this level in the last minute has signal.
const SIGNAL_DB = -60;

/** Arms or disarms those of some tracks that are not so yet. */
export async function arm(tracks: Track[], armed: boolean): Promise<void> {
  const changing = tracks.filter((track) => track.armed !== armed);
  const [first] = changing;
  if (!first) return;
  const what = changing.length === 1 ? first.title : count(changing.length, 'track');
  await set(
    Object.fromEntries(changing.map((track) => [`track/${track.number}/armed`, armed])),
    `${armed ? 'Arm' : 'Disarm'} ${what}`,
  );
}

/** Whether anything came in on a track within the last minute; null while it has not been heard for ten seconds. */
export function hadSignal(track: Track): boolean | null {
  const lines = track.inputs.flatMap((lane) => history.lanes[lane - 1] ?? []);
  if (lines.length === 0 || lines.every((line) => line.at < 200)) return null;
  return lines.some((line) =>
    line.peaks.slice(0, Math.min(line.at, HISTORY)).some((peak) => peak > SIGNAL_DB),
  );
}
