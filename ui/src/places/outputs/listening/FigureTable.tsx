import { type KeyboardEvent, useMemo, useRef, useState } from 'react';
import type { Hearing } from '../../../api/client';
import { StateNote } from '../../../app/status/StateNote';
import { cx } from '../../../look/cx';
import { level } from '../../../look/format';
import styles from '../../../look/look.module.css';
import { cellsOf, type Cell, type Row, sorted } from './figures';
import type { Chosen } from './heard';
import own from '../outputs.module.css';

interface TableProps {
  hearing: Hearing;
  onOpen: (chosen: Chosen) => void;
}

const STEPS: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** The level of every source for every listener. Arrows move between cells, Enter shows the path. */
export function FigureTable({ hearing, onOpen }: TableProps) {
  const [find, setFind] = useState('');
  const [broken, onlyBroken] = useState(false);
  const [by, sort] = useState<number | null>(null);
  const [at, go] = useState<[number, number]>([0, 0]);
  const table = useRef<HTMLTableElement>(null);
  const all = useMemo(() => cellsOf(hearing), [hearing]);
  const rows = sorted(all, by).filter(
    (row) =>
      row.source.title.toLowerCase().includes(find.trim().toLowerCase()) &&
      (!broken || row.cells.some((cell) => cell.wish === 'broken')),
  );
  if (hearing.listeners.length === 0)
    return <StateNote kind="empty">No listeners yet. Suggest them under “Who hears what”.</StateNote>;
  const move = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    const next: [number, number] = [
      Math.max(0, Math.min(rows.length - 1, at[0] + step[0])),
      Math.max(0, Math.min(hearing.listeners.length - 1, at[1] + step[1])),
    ];
    go(next);
    table.current?.querySelector<HTMLElement>(`[data-cell="${next.join('-')}"]`)?.focus();
  };
  return (
    <>
      <div className={styles.tools}>
        <input
          className={styles.find}
          type="search"
          placeholder="Find a source"
          aria-label="Find a source"
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        <button
          type="button"
          className={cx(styles.chip, broken && styles.on)}
          aria-pressed={broken}
          onClick={() => onlyBroken(!broken)}
        >
          Unmet requirements only
        </button>
        <span className={styles.hint}>
          dB relative to the source · <kbd>↑</kbd> <kbd>↓</kbd> <kbd>←</kbd> <kbd>→</kbd> cell ·{' '}
          <kbd>Enter</kbd> shows the path · click a heading to sort
        </span>
      </div>
      <div className={own.scroll}>
        <table
          ref={table}
          className={cx(styles.stacked, own.figures)}
          role="grid"
          aria-label="Who hears what"
        >
          <thead>
            <tr>
              <th aria-sort={by === null ? 'ascending' : 'none'}>
                <button type="button" className={own.sort} onClick={() => sort(null)}>
                  Source {by === null && '▾'}
                </button>
              </th>
              {hearing.listeners.map((one, seat) => (
                <th key={one.number} aria-sort={by === seat ? 'descending' : 'none'}>
                  <button type="button" className={own.sort} onClick={() => sort(by === seat ? null : seat)}>
                    {one.title} {by === seat && '▾'}
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody onKeyDown={move}>
            {rows.map((row, line) => (
              <Line
                key={row.source.id}
                row={row}
                line={line}
                at={[Math.min(at[0], rows.length - 1), at[1]]}
                onFocus={(seat) => go([line, seat])}
                onOpen={(listener) => onOpen({ source: row.source.id, listener })}
              />
            ))}
          </tbody>
        </table>
      </div>
      {rows.length === 0 && <StateNote kind="empty">No matching sources.</StateNote>}
    </>
  );
}

interface LineProps {
  row: Row;
  line: number;
  at: [number, number];
  onFocus: (seat: number) => void;
  onOpen: (listener: number) => void;
}

function Line({ row, line, at, onFocus, onOpen }: LineProps) {
  return (
    <tr>
      <th scope="row">
        <span className={own.dye} data-dye={row.source.dye} /> {row.source.title}
      </th>
      {row.cells.map((cell, seat) => (
        <td
          key={cell.listener}
          data-head={cell.title}
          className={cx(styles.figure, cell.wish === 'broken' && own.brokenCell)}
        >
          <button
            type="button"
            className={own.cell}
            data-cell={`${line}-${seat}`}
            tabIndex={at[0] === line && at[1] === seat ? 0 : -1}
            aria-label={told(row, cell)}
            onFocus={() => onFocus(seat)}
            onClick={() => onOpen(cell.listener)}
          >
            {cell.wish && <span aria-hidden="true">{cell.wish === 'broken' ? '✕ ' : '✓ '}</span>}
            <span className={cell.db === null ? styles.quiet : undefined}>
              {cell.db === null ? '·' : level(cell.db).replace(' dB', '')}
            </span>
          </button>
        </td>
      ))}
    </tr>
  );
}

const told = (row: Row, cell: Cell) =>
  `${row.source.title} for ${cell.title}: ${level(cell.db)}${cell.wish ? `, requirement ${cell.wish === 'broken' ? 'not met' : 'met'}` : ''}`;
