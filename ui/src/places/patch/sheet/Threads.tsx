import { memo } from 'react';
import type { Loose, Port, Thread } from '../../../api/client';
import { type Columns, gapOf, PORT, rowMiddle, threadPath } from './layout';
import { cx } from '../../../look/cx';
import own from './sheet.module.css';

/** The half of an open ring, where a thread ends. */
const RING = PORT / 5;

interface ThreadsProps {
  threads: Thread[];
  loose: Loose[];
  byId: Map<string, Port>;
  columns: Columns;
  /** Strands that are chosen. */
  chosen: ReadonlySet<string>;
  from: number;
  to: number;
  height: number;
}

/** The threads between the rails, as far as they run through the rows that are seen. */
export const Threads = memo(function Threads(props: ThreadsProps) {
  const { threads, loose, byId, columns, chosen, from, to, height } = props;
  return (
    <svg className={own.threads} width="100%" height={height} aria-hidden="true">
      {threads.map((thread) => {
        const a = byId.get(thread.from);
        const b = byId.get(thread.to);
        if (!a || !b || Math.max(a.row, b.row) < from || Math.min(a.row, b.row) > to) return null;
        const through = thread.strands.some((one) => chosen.has(one));
        return (
          <path
            key={`${thread.from}>${thread.to}`}
            className={cx(
              own.thread,
              a.row !== b.row && own.crossing,
              through && own.through,
              thread.strands.length === 0 && own.asked, // an edit without an answer (api/asked.ts)
            )}
            d={threadPath(columns, a, b)}
            data-dye={thread.dye}
          />
        );
      })}
      {loose.map((end) => {
        const port = byId.get(end.port);
        if (!port || port.row < from || port.row > to) return null;
        return <LooseEnd key={end.port + end.side} port={port} side={end.side} columns={columns} />;
      })}
    </svg>
  );
});

interface EndProps {
  port: Port;
  side: 'left' | 'right';
  columns: Columns;
}

/** A thread that ends: a dotted stub with an open ring. */
function LooseEnd({ port, side, columns }: EndProps) {
  const { left, width } = columns[port.rail];
  const y = rowMiddle(port.row);
  const x = side === 'right' ? left + width : left;
  const way = side === 'right' ? 1 : -1;
  const stub = Math.min(16, gapOf(columns) - 2 * RING);
  return (
    <>
      <path className={cx(own.thread, own.loose)} d={`M${x} ${y}h${way * stub}`} data-dye={port.dye} />
      <circle className={own.ring} cx={x + way * (stub + RING)} cy={y} r={RING} />
    </>
  );
}
