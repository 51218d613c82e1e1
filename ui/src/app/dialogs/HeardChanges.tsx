import type { HeardChange } from '../../api/client';
import { level } from '../../look/format';
import { Notes } from './Notes';

/** Who would hear a source louder, softer or no longer. */
export function HeardChanges({ changes, more = 0 }: { changes: HeardChange[]; more?: number }) {
  const all = changes.map((one) => `${one.listener}: ${one.source}, ${level(one.from)} → ${level(one.to)}`);
  const count = all.length + more;
  const title = `${count} level ${count === 1 ? 'change' : 'changes'} for listeners`;
  return <Notes title={title} kind="look" lines={all} />;
}
