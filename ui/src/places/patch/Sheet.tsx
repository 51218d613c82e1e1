import { type KeyboardEvent, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { Port, Show } from '../../api/client';
import { useThemeName } from '../../look/theme';
import { dyeColour } from '../../look/tokens';
import { type Cursor, inRange, moved } from './cursor';
import {
  type Columns,
  columnsFor,
  HEADS,
  PORT,
  RAILS,
  ROW,
  rowMiddle,
  rowTop,
  threadPath,
  TOP,
} from './layout';

interface SheetProps {
  show: Show;
  cursor: Cursor;
  chosen: string[];
  find: string;
  onCursor: (cursor: Cursor) => void;
  onEdit: (port: Port, cell: HTMLElement, typed: string) => void;
  onClear: (port: Port) => void;
}

/** The strand sheet: rails of ports with threads between them. One port is at the keyboard's cursor. */
export function Sheet({ show, cursor, chosen, find, onCursor, onEdit, onClear }: SheetProps) {
  const box = useRef<HTMLDivElement>(null);
  const columns = columnsFor(useWidth(box));
  const { ports, threads, loose } = show.sheet;
  const byId = useMemo(() => new Map(ports.map((port) => [port.id, port])), [ports]);
  const looks = useMemo(() => new Set(show.findings.flatMap((one) => one.at)), [show]);
  const found = useMemo(() => matching(ports, find), [ports, find]);
  const { name: theme } = useThemeName();
  const sizes = useMemo(
    () => Object.fromEntries(RAILS.map((rail) => [rail, ports.filter((port) => port.rail === rail).length])),
    [ports],
  );
  const rows = Math.max(...Object.values(sizes));
  const through = (strands: string[]) => strands.some((one) => chosen.includes(one));
  const dim = (strands: string[]) => found !== null && !strands.some((one) => found.has(one));

  const at = ports.find((port) => port.rail === cursor.rail && port.row === cursor.row);
  useEffect(() => {
    if (box.current?.contains(document.activeElement)) cellOf(box.current, at?.id)?.focus();
  }, [at?.id]);

  const onKeyDown = (event: KeyboardEvent) => {
    if (!at || !box.current || event.altKey || event.ctrlKey || event.metaKey) return;
    const next = moved(cursor, event.key, event.shiftKey, sizes);
    const cell = cellOf(box.current, at.id);
    if (next) onCursor(next);
    else if (event.key === 'Enter' && cell) onEdit(at, cell, '');
    else if (event.key === 'Delete' || event.key === 'Backspace') onClear(at);
    else if (event.key.length === 1 && !'/? '.includes(event.key) && cell) onEdit(at, cell, event.key);
    else return;
    event.preventDefault();
  };

  return (
    <div
      className="sheet"
      ref={box}
      role="grid"
      aria-label="Strand sheet"
      style={{ height: TOP + rows * ROW + 8 }}
      onKeyDown={onKeyDown}
    >
      {RAILS.map((rail) => (
        <div key={rail} className="sheet-head" style={columns[rail]}>
          {HEADS[rail]}
        </div>
      ))}
      <svg className="threads" width="100%" height="100%" aria-hidden="true">
        {threads.map((thread) => {
          const from = byId.get(thread.from);
          const to = byId.get(thread.to);
          if (!from || !to) return null;
          const kind = `${through(thread.strands) ? 'through' : ''} ${dim(thread.strands) ? 'dim' : ''}`;
          return (
            <path
              key={`${thread.from}>${thread.to}`}
              className={`thread ${kind}`}
              d={threadPath(columns, from, to)}
              stroke={dyeColour(thread.dye, theme)}
            />
          );
        })}
        {loose.map((end) => {
          const port = byId.get(end.port);
          return (
            port && (
              <LooseEnd
                key={end.port + end.side}
                port={port}
                side={end.side}
                columns={columns}
                dye={dyeColour(port.dye, theme)}
              />
            )
          );
        })}
      </svg>
      {ports.map((port) => (
        <div
          key={port.id}
          role="gridcell"
          data-port={port.id}
          tabIndex={port === at ? 0 : -1}
          aria-label={`${HEADS[port.rail]} ${port.mark} ${port.name} ${port.note}`.trim()}
          aria-selected={through(port.strands)}
          className={[
            'port',
            `rail-${port.rail}`,
            port.free && 'free',
            through(port.strands) && 'through',
            looks.has(port.id) && 'look',
            port === at && 'at',
            cursor.row !== cursor.anchor && inRange(cursor, port) && 'range',
            dim(port.strands) && 'dim',
          ]
            .filter(Boolean)
            .join(' ')}
          style={{ ...columns[port.rail], top: rowTop(port.row) }}
          onClick={(event) => {
            onCursor({
              rail: port.rail,
              row: port.row,
              anchor: event.shiftKey && port.rail === cursor.rail ? cursor.anchor : port.row,
            });
            event.currentTarget.focus();
          }}
          onDoubleClick={(event) => onEdit(port, event.currentTarget, '')}
        >
          {(port.rail === 'channel' || port.rail === 'track') && !port.free && (
            <span className="dye" style={{ background: dyeColour(port.dye, theme) }} />
          )}
          <span className="port-mark figure">{port.mark}</span>
          <span className="port-name">{port.name}</span>
          {port.note && <span className="port-note figure">{port.note}</span>}
        </div>
      ))}
    </div>
  );
}

const cellOf = (box: HTMLElement, id: string | undefined) =>
  id === undefined ? null : box.querySelector<HTMLElement>(`[data-port="${CSS.escape(id)}"]`);

/** Strands with a port whose name or mark starts like what is sought; null while nothing is. */
function matching(ports: Port[], find: string): Set<string> | null {
  const words = find.trim().toLowerCase();
  if (!words) return null;
  const hits = ports.filter(
    (port) => port.name.toLowerCase().includes(words) || port.mark.toLowerCase() === words,
  );
  return new Set(hits.flatMap((port) => port.strands));
}

/** A thread that ends: a dotted stub with an open ring. */
function LooseEnd({
  port,
  side,
  columns,
  dye,
}: {
  port: Port;
  side: 'left' | 'right';
  columns: Columns;
  dye: string;
}) {
  const { left, width } = columns[port.rail];
  const y = rowMiddle(port.row);
  const x = side === 'right' ? left + width : left;
  const end = side === 'right' ? x + 22 : x - 22;
  return (
    <>
      <path className="thread loose" d={`M${x} ${y}H${end}`} stroke={dye} />
      <circle className="ring" cx={end + (side === 'right' ? 5 : -5)} cy={y} r={PORT / 5} />
    </>
  );
}

function useWidth(box: React.RefObject<HTMLDivElement | null>): number {
  const [width, setWidth] = useState(940);
  useLayoutEffect(() => {
    if (!box.current) return;
    const watch = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, [box]);
  return width;
}
