import { useLiveState } from '../../api/live';
import { StateNote } from './StateNote';

const WORDS = {
  desk: 'The desk is away: what it does and hears now is not known. It is tried again all the time.',
  recorder:
    'The recorder is away: nothing is captured, played or heard by it. It is started again by itself.',
} as const;

/** That something a place lives on is away. */
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
