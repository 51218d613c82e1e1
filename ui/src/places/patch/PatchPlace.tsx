import Button from '@mui/material/Button';
import { useEffect, useRef, useState } from 'react';
import type { Port } from '../../api/client';
import { redo, set, undo, useShow } from '../../api/queries';
import { CellEditor } from './CellEditor';
import { emptying } from './cells';
import { type Cursor, start } from './cursor';
import { RunStraightDialog } from './RunStraightDialog';
import { Sheet } from './Sheet';
import { ShortcutsDialog } from './ShortcutsDialog';
import { TracePanel } from './TracePanel';

interface Editing {
  port: Port;
  cell: HTMLElement;
  typed: string;
}

/** The strand sheet with its tools, and the chosen strand told hop by hop at the side. */
export function PatchPlace() {
  const show = useShow().data;
  const [cursor, setCursor] = useState<Cursor>(start);
  const [find, setFind] = useState('');
  const [editing, setEditing] = useState<Editing | null>(null);
  const [dialog, setDialog] = useState<'run' | 'keys' | null>(null);
  const finder = useRef<HTMLInputElement>(null);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
      const held = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      if (typing) return;
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

  if (!show) return null;
  const at = show.sheet.ports.find((port) => port.rail === cursor.rail && port.row === cursor.row);
  const strand = at?.strands[0];

  const close = () => {
    const cell = editing?.cell;
    setEditing(null);
    cell?.focus();
  };
  return (
    <>
      <main>
        <div className="tools">
          <Button variant="outlined" onClick={() => setDialog('run')}>
            Run straight…
          </Button>
          <Button
            variant="outlined"
            disabled={!show.undo}
            title={show.undo ?? ''}
            onClick={() => void undo()}
          >
            Undo
          </Button>
          <Button
            variant="outlined"
            disabled={!show.redo}
            title={show.redo ?? ''}
            onClick={() => void redo()}
          >
            Redo
          </Button>
          <input
            ref={finder}
            className="find"
            aria-label="Find a strand"
            placeholder="find a strand  /"
            value={find}
            onChange={(event) => setFind(event.target.value)}
            onKeyDown={(event) => event.key === 'Escape' && (setFind(''), event.currentTarget.blur())}
          />
          <span className="hint">
            <kbd>↑↓←→</kbd> move · <kbd>Enter</kbd> or type to set · <kbd>?</kbd> keys
          </span>
        </div>
        <Sheet
          show={show}
          cursor={cursor}
          chosen={at?.strands ?? []}
          find={find}
          onCursor={setCursor}
          onEdit={(port, cell, typed) => {
            setCursor({ rail: port.rail, row: port.row, anchor: port.row });
            setEditing({ port, cell, typed });
          }}
          onClear={(port) => {
            const settings = emptying(show, port);
            if (settings) void set(settings);
          }}
        />
      </main>
      <TracePanel strandId={strand} port={at} show={show} />
      {editing && <CellEditor {...editing} show={show} onClose={close} />}
      <RunStraightDialog
        open={dialog === 'run'}
        onClose={() => setDialog(null)}
        cursor={cursor}
        show={show}
      />
      <ShortcutsDialog open={dialog === 'keys'} onClose={() => setDialog(null)} />
    </>
  );
}
