import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { change } from '../../../api/careful';
import type { Outputs } from '../../../api/client';
import { set } from '../../../api/edits';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import { CellEditor } from './CellEditor';
import { chosen, type Column, columnsOf, type Cursor, forAll, type Line, linesOf, moved } from './sheet';
import own from '../outputs.module.css';

const HEADS: Record<Column, string> = {
  source: 'Source',
  tap: 'Tap',
  delay: 'Delay',
  polarity: 'Polarity',
  expected: 'Expected socket',
};

interface SheetProps {
  outputs: Outputs;
  kind: Line['kind'];
  /** The setting that somebody wants to change. */
  sought: string;
  onTrace: (point: string, label: string) => void;
}

/** Every output and personal mix, a line each: by keyboard from cell to cell, several at once. */
export function OutputSheet({ outputs, kind, sought, onTrace }: SheetProps) {
  const lines = linesOf(outputs, kind);
  const columns = columnsOf(kind);
  const head = kind === 'output' ? 'Output' : 'Lane';
  const cellId = (row: number, column: number) => `${kind}-${row}-${column}`;
  const first = Math.max(
    0,
    lines.findIndex((one) => sought.startsWith(`${one.kind}/${one.number}/`)),
  );
  const [cursor, go] = useState<Cursor>({ row: first, anchor: first, column: 0 });
  const [typed, edit] = useState<string | null>(null);
  const grid = useRef<HTMLTableElement>(null);
  const column = columns[cursor.column] ?? 'source';
  const at = lines[cursor.row];
  const range = chosen(lines, cursor);
  useEffect(() => {
    if (sought.startsWith(`${kind}/`)) grid.current?.focus();
  }, [sought, kind]);
  // The cursor is seen once somebody is in here; a table that is only looked at stays where it is.
  useEffect(() => {
    if (!grid.current?.contains(document.activeElement)) return;
    document.getElementById(`${kind}-${cursor.row}-${cursor.column}`)?.scrollIntoView?.({ block: 'nearest' });
  }, [kind, cursor]);

  const close = () => {
    edit(null);
    grid.current?.focus();
  };
  const clear = () => {
    if (column === 'source') change(forAll(range, 'source', null));
    if (column === 'delay') change(forAll(range, 'delay', 0));
    if (column === 'expected') void set(forAll(range, 'expected', null));
  };
  const open = (text: string) => {
    if (!at || !fits(at, column)) return;
    if (column === 'polarity') change(forAll(range, 'polarity', !at.polarity));
    else edit(text);
  };
  const press = (event: KeyboardEvent) => {
    if (typed !== null || event.ctrlKey || event.metaKey || event.altKey) return;
    const next = moved(cursor, event.key, event.shiftKey, { rows: lines.length, columns: columns.length });
    if (next) go(next);
    else if (event.key === 'Enter' || event.key === ' ') open('');
    else if (event.key === 'Delete' || event.key === 'Backspace') clear();
    else if (event.key.length === 1 && event.key !== '?') open(event.key);
    else return;
    event.preventDefault();
  };
  const pick = (row: number, to: number, shift: boolean) => {
    const inHand = document.activeElement === grid.current; // somebody who only comes in has not chosen yet
    grid.current?.focus();
    if (inHand && row === cursor.row && to === cursor.column && !shift) return open('');
    go({ row, anchor: shift ? cursor.anchor : row, column: to });
  };

  return (
    <>
      <p className={styles.hint}>
        <kbd>↑</kbd> <kbd>↓</kbd> <kbd>←</kbd> <kbd>→</kbd> move · <kbd>Shift</kbd> selects a range · type or{' '}
        <kbd>Enter</kbd> to change · <kbd>Del</kbd> clears ·{' '}
        {range.length > 1
          ? `${range.length} rows selected: values count up from the first`
          : '1 row selected'}
      </p>
      <table
        ref={grid}
        className={cx(styles.plain, styles.stacked, own.sheet)}
        role="grid"
        aria-label={kind === 'output' ? 'Outputs' : 'Personal mixes'}
        aria-multiselectable="true"
        aria-activedescendant={cellId(cursor.row, cursor.column)}
        tabIndex={0}
        onKeyDown={press}
      >
        <thead>
          <tr>
            <th>{head}</th>
            {columns.map((one) => (
              <th key={one}>{HEADS[one]}</th>
            ))}
            {kind === 'output' && <th>Socket</th>}
          </tr>
        </thead>
        <tbody>
          {lines.map((line, row) => (
            <tr key={`${line.kind}/${line.number}`} aria-selected={range.includes(line)}>
              <td data-head={head} className={cx(styles.figure, line.source === null && styles.quiet)}>
                {line.number}
              </td>
              {columns.map((one, place) => {
                const here = row === cursor.row && place === cursor.column;
                return (
                  <td
                    key={one}
                    data-head={HEADS[one]}
                    id={cellId(row, place)}
                    role="gridcell"
                    aria-selected={here}
                    className={cx(own.place, here && own.here, one === 'delay' && styles.figure)}
                    onMouseDown={(event) => {
                      if (here && typed !== null) return;
                      event.preventDefault();
                      pick(row, place, event.shiftKey);
                    }}
                  >
                    {here && typed !== null ? (
                      <CellEditor
                        lines={range}
                        column={one}
                        outputs={outputs}
                        typed={typed}
                        onClose={close}
                      />
                    ) : (
                      <Shown line={line} column={one} outputs={outputs} />
                    )}
                  </td>
                );
              })}
              {kind === 'output' && (
                <td data-head="Socket">
                  {line.sockets.map((one) => (
                    <button
                      key={one.point}
                      type="button"
                      tabIndex={-1}
                      className={styles.jump}
                      aria-label={`Trace ${one.label}`}
                      onClick={() => onTrace(one.point, one.label)}
                    >
                      {one.label}
                    </button>
                  ))}
                  {line.kind === 'output' && line.source !== null && line.sockets.length === 0 && (
                    <span className={styles.inLook}>! not connected</span>
                  )}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** Whether there is anything to change in a cell. */
function fits(line: Line, column: Column): boolean {
  if (column === 'source') return true;
  if (column === 'tap') return line.taps.length > 1;
  return line.kind === 'output';
}

function Shown({ line, column, outputs }: { line: Line; column: Column; outputs: Outputs }) {
  switch (column) {
    case 'source':
      return <span className={cx(line.source === null && styles.quiet)}>{line.label || 'nothing'}</span>;
    case 'tap':
      return <>{outputs.can.taps.find((one) => one.id === line.taken)?.label ?? ''}</>;
    case 'delay':
      return <>{line.delay ? `${line.delayMs.toFixed(2)} ms` : ''}</>;
    case 'polarity':
      return <>{line.polarity ? 'turned' : ''}</>;
    case 'expected': {
      const missed = line.expected !== null && !line.sockets.some((one) => one.point === line.expected);
      return (
        <span className={cx(missed && styles.inStop)}>
          {missed && '✕ '}
          {line.expectedLabel}
        </span>
      );
    }
  }
}
