import { memo } from 'react';
import type { Loose, Port, Thread } from '../../api/client';
import { dyeColour, type ThemeName } from '../../look/tokens';
import { type Columns, PORT, rowMiddle, threadPath } from './layout';

interface ThreadsProps {
  threads: Thread[];
  loose: Loose[];
  byId: Map<string, Port>;
  columns: Columns;
  /** Strands that are chosen. */
  chosen: ReadonlySet<string>;
  theme: ThemeName;
  from: number;
  to: number;
  height: number;
}

/** The threads between the rails, as far as they run through the rows that are seen. */
export const Threads = memo(function Threads(props: ThreadsProps) {
  const { threads, loose, byId, columns, chosen, theme, from, to, height } = props;
  return (
    <svg className="threads" width="100%" height={height} aria-hidden="true">
      {threads.map((thread) => {
        const a = byId.get(thread.from);
        const b = byId.get(thread.to);
        if (!a || !b || Math.max(a.row, b.row) < from || Math.min(a.row, b.row) > to) return null;
        const kinds = `${a.row === b.row ? '' : 'crossing'} ${thread.strands.some((one) => chosen.has(one)) ? 'through' : ''}`;
        return (
          <path
            key={`${thread.from}>${thread.to}`}
            className={`thread ${kinds}`}
            d={threadPath(columns, a, b)}
            stroke={dyeColour(thread.dye, theme)}
          />
        );
      })}
      {loose.map((end) => {
        const port = byId.get(end.port);
        if (!port || port.row < from || port.row > to) return null;
        return (
          <LooseEnd
            key={end.port + end.side}
            port={port}
            side={end.side}
            columns={columns}
            dye={dyeColour(port.dye, theme)}
          />
        );
      })}
    </svg>
  );
});

interface EndProps {
  port: Port;
  side: 'left' | 'right';
  columns: Columns;
  dye: string;
}

/** A thread that ends: a dotted stub with an open ring. */
function LooseEnd({ port, side, columns, dye }: EndProps) {
  const { left, width } = columns[port.rail];
  const y = rowMiddle(port.row);
  const x = side === 'right' ? left + width : left;
  const way = side === 'right' ? 1 : -1;
  return (
    <>
      <path className="thread loose" d={`M${x} ${y}h${way * 16}`} stroke={dye} />
      <circle className="ring" cx={x + way * 21} cy={y} r={PORT / 5} />
    </>
  );
}
