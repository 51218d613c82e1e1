import type { Port } from '../../../api/client';
import { PORT, rowTop } from './layout';
import styles from '../../../look/look.module.css';
import own from './sheet.module.css';

/** Brackets around channels that are patched as a block, with their numbers. */
export function Brackets({ ports, from, to }: { ports: Port[]; from: number; to: number }) {
  const blocks = new Map<number, Port[]>();
  for (const port of ports) {
    if (port.rail !== 'channel' || port.block === null) continue;
    blocks.set(port.block, [...(blocks.get(port.block) ?? []), port]);
  }
  return [...blocks].map(([block, members]) => {
    const first = Math.min(...members.map((port) => port.row));
    const last = Math.max(...members.map((port) => port.row));
    if (last < from || first > to) return null;
    const numbers = members.map((port) => port.number);
    const words = `${Math.min(...numbers)}–${Math.max(...numbers)}`;
    return (
      <div
        key={block}
        aria-hidden="true"
        className={own.bracket}
        title={`Channels ${words} are patched together`}
        style={{ top: rowTop(first), height: rowTop(last) + PORT - rowTop(first) }}
      >
        <span className={styles.figure}>{words}</span>
      </div>
    );
  });
}
