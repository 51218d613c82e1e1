import Popover from '@mui/material/Popover';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Port, Settings } from '../../api/client';
import { redo, set, step, undo } from '../../api/edits';
import { useShow } from '../../api/queries';
import { PORT, useJump } from '../../app/shell/jump';
import { StateNote } from '../../app/status/StateNote';
import { BulkEditor } from './editors/BulkEditor';
import { CellEditor } from './editors/CellEditor';
import { emptying, forAll, namesFor, numbersOf, portOf } from './editors/cells';
import { type Cursor, inRange, isRange, start } from './sheet/cursor';
import { Dyes } from '../../app/controls/Dyes';
import { type Filter, found, shown as show_, strandsOf } from './sheet/filter';
import { InputListDialog } from './dialogs/InputListDialog';
import { patch } from './editors/patching';
import { RunStraightDialog } from './dialogs/RunStraightDialog';
import { Sheet, type SheetActions } from './sheet/Sheet';
import { ShortcutsDialog } from './dialogs/ShortcutsDialog';
import { type PatchDialog, Toolbar } from './Toolbar';
import { TracePanel } from './TracePanel';
import { TracksDialog } from './dialogs/TracksDialog';
import styles from '../../look/look.module.css';
import own from './sheet/sheet.module.css';

interface Open {
  port: Port;
  cell: HTMLElement;
  typed: string;
}

/** The strand sheet with its tools, and the trace of the selected strand at the side. */
export function PatchPlace() {
  const show = useShow().data;
  const [cursor, setCursor] = useState<Cursor>(start);
  const [find, setFind] = useState('');
  const [filter, setFilter] = useState<Filter>('all');
  const [editing, setEditing] = useState<Open | null>(null);
  const [dyeing, setDyeing] = useState<Open | null>(null);
  const [naming, setNaming] = useState<Port | null>(null);
  const [dialog, setDialog] = useState<PatchDialog | null>(null);
  const finder = useRef<HTMLInputElement>(null);

  const kinds = useMemo(() => (show ? strandsOf(show) : null), [show]);
  const shown = useMemo(() => {
    if (!show || !kinds) return { ports: [], rows: 0 };
    return show_(show.sheet.ports, [filter === 'all' ? null : kinds[filter], found(show.sheet.ports, find)]);
  }, [show, kinds, filter, find]);
  const at = shown.ports.find((port) => port.rail === cursor.rail && port.row === cursor.row);
  const chosen = useMemo(() => shown.ports.filter((port) => inRange(cursor, port)), [shown, cursor]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
      const held = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      if (typing || document.querySelector('[role=dialog]')) return;
      if (held && key === 'z') void (event.shiftKey ? redo() : undo());
      else if (held && key === 'y') void redo();
      else if (!held && key === '/') finder.current?.focus();
      else if (!held && key === '?') setDialog('keys');
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  // A jump from elsewhere: to a port, or to the port of a setting with its editor open.
  useJump('patch', (sought) => {
    if (!show) return;
    const shows = sought.startsWith(PORT);
    const id = sought.slice(PORT.length);
    const port = shows ? show.sheet.ports.find((one) => one.id === id) : portOf(show, sought);
    if (!port) return;
    setFilter('all');
    setFind('');
    setCursor({ rail: port.rail, row: port.row, anchor: port.row });
    const open = () => {
      const cell = document.querySelector<HTMLElement>(`[data-port="${CSS.escape(port.id)}"]`);
      cell?.focus();
      if (cell && !shows) setEditing({ port, cell, typed: '' });
    };
    requestAnimationFrame(() => requestAnimationFrame(open));
  });

  const focusCell = useCallback((id: string | undefined) => {
    if (id) document.querySelector<HTMLElement>(`[data-port="${CSS.escape(id)}"]`)?.focus();
  }, []);
  if (!show || !kinds) return null;

  const range = isRange(cursor) && chosen.length > 1 ? chosen : null;
  const goTo = (port: Port) => setCursor({ rail: port.rail, row: port.row, anchor: port.row });
  const close = () => {
    const open = editing ?? dyeing;
    setEditing(null);
    setDyeing(null);
    // The cell may be drawn again by then.
    if (open) requestAnimationFrame(() => focusCell(open.port.id));
  };
  const inRangeOr = (port: Port) => (range?.includes(port) ? range : [port]);

  const actions: SheetActions = {
    onEdit: (port, cell, typed) => {
      if (!range?.includes(port)) goTo(port);
      setEditing({ port, cell, typed });
    },
    onName: (port) => {
      if (port.rail !== 'channel' && port.rail !== 'track') return;
      goTo(port);
      setNaming(port);
    },
    onDye: (port, cell) => {
      if (port.rail === 'channel' || port.rail === 'track') setDyeing({ port, cell, typed: '' });
    },
    onClear: (port) => {
      const all = inRangeOr(port)
        .map((one) => emptying(show, one))
        .filter((one) => one !== null);
      const settings = Object.assign({}, ...all) as Settings;
      if (Object.keys(settings).length > 0) void patch(show, settings);
    },
    onPair: (port) => {
      if (port.rail !== 'channel') return;
      const left = show.channels[port.number % 2 === 1 ? port.number - 1 : port.number - 2];
      void step(left?.paired ? 'split' : 'join', { channel: port.number });
    },
    onFix: (port) => {
      if (port.rail !== 'channel') return;
      const fixed = !show.channels[port.number - 1]?.fixed;
      void set(
        forAll('channel', numbersOf(inRangeOr(port)), 'fixed', () => fixed),
        fixed ? 'Lock for auto-patch' : 'Unlock for auto-patch',
      );
    },
    onArm: (port) => {
      if (port.rail !== 'track') return;
      const armed = !show.tracks[port.number - 1]?.armed;
      void set(
        forAll('track', numbersOf(inRangeOr(port)), 'armed', () => armed),
        armed ? 'Arm' : 'Disarm',
      );
    },
    onPaste: (port, text) => {
      if (port.rail !== 'channel' && port.rail !== 'track') return;
      const below = numbersOf(shown.ports.filter((one) => one.rail === port.rail && one.row >= port.row));
      const names = namesFor(text.trim(), below.length).slice(0, text.trim().split(/\r?\n/).length);
      void set(
        forAll(port.rail, below.slice(0, names.length), 'name', (i) => names[i]),
        `Names of ${names.length} ${port.rail}s`,
      );
    },
  };

  const named = (name: string | null, go: 0 | 1 | -1) => {
    const port = naming;
    setNaming(null);
    if (!port) return;
    if (name !== null && name !== port.name) void set({ [`${port.rail}/${port.number}/name`]: name });
    const next =
      go === 0 ? port : shown.ports.find((one) => one.rail === port.rail && one.row === port.row + go);
    if (!next) return;
    goTo(next);
    if (go !== 0) setNaming(next);
    else requestAnimationFrame(() => focusCell(next.id));
  };
  const dyed = (dye: string) => {
    if (!dyeing) return;
    const { port } = dyeing;
    void set(
      forAll(port.rail, numbersOf(inRangeOr(port)), 'colour', () => dye),
      `Dye ${dye}`,
    );
    close();
  };

  return (
    <>
      <main className={own.patch}>
        <Toolbar
          show={show}
          kinds={kinds}
          filter={filter}
          onFilter={(next) => {
            setFilter(next);
            setCursor(start);
          }}
          find={find}
          finder={finder}
          onFind={(text) => {
            setFind(text);
            setCursor({ ...start, row: 0, anchor: 0 });
          }}
          onFound={() =>
            focusCell(shown.ports.find((port) => port.rail === 'channel')?.id ?? shown.ports[0]?.id)
          }
          at={at}
          range={range}
          onPair={actions.onPair}
          onEditRange={() => {
            const cell = at && document.querySelector<HTMLElement>(`[data-port="${CSS.escape(at.id)}"]`);
            if (cell && at) setEditing({ port: at, cell, typed: '' });
          }}
          onDialog={setDialog}
        />
        <Sheet
          show={show}
          shown={shown}
          cursor={cursor}
          onCursor={setCursor}
          naming={naming}
          onNamed={named}
          {...actions}
        />
        {shown.rows === 0 && <StateNote kind="empty">No matching strands.</StateNote>}
      </main>
      <TracePanel port={at} show={show} />
      {editing &&
        (range?.includes(editing.port) ? (
          <BulkEditor ports={range} cell={editing.cell} show={show} onClose={close} />
        ) : (
          <CellEditor {...editing} show={show} onClose={close} />
        ))}
      {dyeing && (
        <Popover
          open
          anchorEl={dyeing.cell}
          onClose={close}
          anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        >
          <div
            className={styles.editor}
            role="dialog"
            aria-label={`Dye of ${dyeing.port.name || dyeing.port.mark}`}
          >
            <Dyes dyes={show.profile.dyes} value={dyeing.port.dye} onChoose={dyed} autoFocus />
          </div>
        </Popover>
      )}
      <RunStraightDialog
        open={dialog === 'run'}
        onClose={() => setDialog(null)}
        chosen={chosen}
        show={show}
      />
      <TracksDialog open={dialog === 'tracks'} onClose={() => setDialog(null)} chosen={chosen} show={show} />
      <InputListDialog open={dialog === 'list'} onClose={() => setDialog(null)} />
      <ShortcutsDialog open={dialog === 'keys'} onClose={() => setDialog(null)} />
    </>
  );
}
