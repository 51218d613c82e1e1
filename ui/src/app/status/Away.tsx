import { useLiveState } from '../../api/live';
import { StateNote } from './StateNote';

const WORDS = {
  desk: 'Desk offline: its state is unknown. Reconnecting …',
  recorder: 'Recorder offline: no capture, playback or metering. Restarting automatically.',
} as const;

/** Says that a part which the page depends on is offline. */
export function Away({ of }: { of: (keyof typeof WORDS)[] }) {
  const state = useLiveState();
  if (!state) return null;
  return of
    .filter((part) => !state[part].up)
    .map((part) => (
      <StateNote key={part} kind="away">
        {WORDS[part]}
      </StateNote>
    ));
}
