import { useVirtualizer } from '@tanstack/react-virtual';
import {
  type ClipboardEvent,
  type KeyboardEvent,
  type MouseEvent,
  type RefObject,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import type { Port, Show } from '../../../api/client';
import { Brackets } from './Brackets';
import { type Cursor, inRange, isRange, moved, rowsOf } from './cursor';
import type { Shown } from './filter';
import { columnsFor, HEADS, inRows, type Rail, RAILS, ROW, SLIM_HEADS, widthOf } from './layout';
import { NameInput } from '../editors/NameInput';
import { PortCell } from './PortCell';
import { Threads } from './Threads';
import { cx } from '../../../look/cx';
import own from './sheet.module.css';

/** What can be done with the port at the cursor, or the range. */
export interface SheetActions {
  onEdit: (port: Port, cell: HTMLElement, typed: string) => void;
  onName: (port: Port, cell: HTMLElement) => void;
  onDye: (port: Port, cell: HTMLElement) => void;
  onClear: (port: Port) => void;
  onPair: (port: Port) => void;
  onFix: (port: Port) => void;
  onArm: (port: Port) => void;
  onPaste: (port: Port, text: string) => void;
}

interface SheetProps extends SheetActions {
  show: Show;
  shown: Shown;
  cursor: Cursor;
  onCursor: (cursor: Cursor) => void;
  /** The port whose name is being typed. */
  naming: Port | null;
  onNamed: (name: string | null, go: 0 | 1 | -1) => void;
}

const NAMED_KEYS: Record<string, keyof Pick<SheetActions, 'onPair' | 'onFix'>> = {
  F8: 'onPair',
  F9: 'onFix',
};
const NONE: ReadonlySet<string> = new Set();

/** The strand sheet: rails of ports with threads between them. One port is at the keyboard's cursor. Only rows that are
 * seen are drawn. */
export function Sheet(props: SheetProps) {
  const { show, shown, cursor, onCursor, naming, onNamed, onEdit, onName, onDye, onClear, onPaste } = props;
  const box = useRef<HTMLDivElement>(null);
  const brackets = show.profile.stage_block > 1;
  const columns = useColumns(box, brackets, cursor.rail);
  const { ports } = shown;
  const byId = useMemo(() => new Map(ports.map((port) => [port.id, port])), [ports]);
  const byPlace = useMemo(() => new Map(ports.map((port) => [`${port.rail}/${port.row}`, port])), [ports]);
  const rows = useMemo(() => rowsOf(ports), [ports]);
  const byRow = useMemo(() => inRows(ports, shown.rows), [ports, shown.rows]);
  const looks = useMemo(
    () => new Set(show.findings.filter((one) => one.accepted === null).flatMap((one) => one.at)),
    [show],
  );
  const at = byPlace.get(`${cursor.rail}/${cursor.row}`);
  const chosen = useMemo(() => new Set(at?.strands ?? NONE), [at]);

  const virtual = useVirtualizer({
    count: shown.rows,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 6,
  });
  const items = virtual.getVirtualItems();
  const from = items[0]?.index ?? 0;
  const to = items.at(-1)?.index ?? 40;
  const height = shown.rows * ROW + 10;

  // The cursor is always seen, and has the focus while the sheet has it.
  const holds = useRef(false);
  useEffect(() => {
    virtual.scrollToIndex(cursor.row, { align: 'auto' });
  }, [virtual, cursor.row]);
  useLayoutEffect(() => {
    if (holds.current && document.activeElement === document.body) cellOf(box.current, at?.id)?.focus();
  });
  useEffect(() => {
    if (!naming && box.current?.contains(document.activeElement))
      cellOf(box.current, at?.id)?.focus({ preventScroll: true });
  }, [naming, at?.id, from, to]);

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement || event.altKey || event.ctrlKey || event.metaKey) return;
    const next = moved(cursor, event.key, event.shiftKey, rows);
    const cell = cellOf(box.current, at?.id);
    const named = NAMED_KEYS[event.key];
    if (next) onCursor(next);
    else if (!at || !cell) return;
    else if (event.key === 'Enter') onEdit(at, cell, '');
    else if (event.key === 'F2') onName(at, cell);
    else if (event.key === 'F4') onDye(at, cell);
    else if (named) props[named](at);
    else if (event.key === ' ') props.onArm(at);
    else if (event.key === 'Delete' || event.key === 'Backspace') onClear(at);
    else if (event.key === 'Escape' && isRange(cursor)) onCursor({ ...cursor, anchor: cursor.row });
    else if (event.key.length === 1 && !'/?'.includes(event.key)) onEdit(at, cell, event.key);
    else return;
    event.preventDefault();
  };

  const { rail, anchor } = cursor;
  const onPoint = useCallback(
    (port: Port, event: MouseEvent<HTMLElement>) => {
      onCursor({
        rail: port.rail,
        row: port.row,
        anchor: event.shiftKey && port.rail === rail ? anchor : port.row,
      });
      event.currentTarget.focus();
    },
    [onCursor, rail, anchor],
  );
  const onOpen = useCallback((port: Port, cell: HTMLElement) => onEdit(port, cell, ''), [onEdit]);

  const multi = isRange(cursor);
  return (
    <div
      className={own.sheetFrame}
      role="grid"
      aria-label="Strand sheet"
      aria-rowcount={shown.rows + 1}
      aria-colcount={RAILS.length}
      aria-multiselectable
    >
      <div className={own.sheetHeads} role="row" aria-rowindex={1}>
        {RAILS.map((one, column) => (
          <div
            key={one}
            className={own.sheetHead}
            style={{ left: columns[one].left, width: columns[one].width }}
            role="columnheader"
            aria-colindex={column + 1}
          >
            {columns[one].slim ? SLIM_HEADS[one] : HEADS[one]}
          </div>
        ))}
      </div>
      <div
        className={own.sheetScroll}
        ref={box}
        role="rowgroup"
        onKeyDown={onKeyDown}
        onFocus={() => (holds.current = true)}
        onBlur={(event) => (holds.current = event.relatedTarget === null)}
        onPaste={(event: ClipboardEvent) => at && onPaste(at, event.clipboardData.getData('text'))}
      >
        <div className={own.sheet} style={{ height, minWidth: widthOf(columns) }} role="presentation">
          <Threads
            threads={show.sheet.threads}
            loose={show.sheet.loose}
            byId={byId}
            columns={columns}
            chosen={chosen}
            from={from}
            to={to}
            height={height}
          />
          {brackets && <Brackets ports={ports} from={from} to={to} />}
          {byRow.slice(from, to + 1).map((inRow, i) => (
            <div key={from + i} role="row" aria-rowindex={from + i + 2}>
              {inRow.map((port) => {
                const through = port.strands.some((one) => chosen.has(one));
                return (
                  <PortCell
                    key={port.id}
                    port={port}
                    left={columns[port.rail].left}
                    width={columns[port.rail].width}
                    kinds={cx(
                      columns[port.rail].slim && own.slim,
                      through && own.through,
                      looks.has(port.id) && own.look,
                      port === at && own.at,
                      multi && inRange(cursor, port) && own.range,
                    )}
                    focusable={port === at}
                    selected={inRange(cursor, port)}
                    onPoint={onPoint}
                    onOpen={onOpen}
                    onDye={onDye}
                  />
                );
              })}
              {naming && naming.row === from + i && (
                <div role="gridcell" aria-colindex={RAILS.indexOf(naming.rail) + 1}>
                  <NameInput
                    key={naming.id}
                    port={byId.get(naming.id) ?? naming}
                    left={columns[naming.rail].left}
                    width={columns[naming.rail].width}
                    onDone={onNamed}
                  />
                </div>
              )}
            </div>
          ))}
        </div>
      </div>
    </div>
  );
}

const cellOf = (box: HTMLElement | null, id: string | undefined) =>
  id === undefined ? null : (box?.querySelector<HTMLElement>(`[data-port="${CSS.escape(id)}"]`) ?? null);

function useColumns(box: RefObject<HTMLDivElement | null>, brackets: boolean, at: Rail) {
  const [width, setWidth] = useState(940);
  useLayoutEffect(() => {
    if (!box.current) return;
    const watch = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width));
    watch.observe(box.current);
    return () => watch.disconnect();
  }, [box]);
  return useMemo(() => columnsFor(width, brackets, at), [width, brackets, at]);
}
