import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Port, Show } from '../../api/client';
import { runStraight, type RunColumn } from '../../api/queries';
import type { Cursor } from './cursor';

const COLUMNS: Record<RunColumn, { label: string; from: string; targets: string }> = {
  socket: { label: 'Channels from sockets', targets: 'channel', from: 'socket' },
  send: { label: 'Card sends from channels', targets: 'card send', from: 'channel lane' },
  track_input: { label: 'Track inputs from card sends', targets: 'track', from: 'card send' },
  track_output: { label: 'Track outputs to card returns', targets: 'track', from: 'card return' },
  return: { label: 'Take sources from card returns', targets: 'channel', from: 'card return' },
};
const BY_RAIL: Record<Port['rail'], RunColumn> = {
  socket: 'socket',
  channel: 'socket',
  send: 'send',
  track: 'track_input',
  return: 'return',
};

interface RunProps {
  open: boolean;
  onClose: () => void;
  cursor: Cursor;
  show: Show;
}

export function RunStraightDialog({ open, onClose, cursor, show }: RunProps) {
  return (
    <Dialog open={open} onClose={onClose}>
      {open && <RunForm onClose={onClose} cursor={cursor} show={show} />}
    </Dialog>
  );
}

/** Starts out with the range that is chosen on the sheet. */
function RunForm({ onClose, cursor, show }: Omit<RunProps, 'open'>) {
  const low = Math.min(cursor.row, cursor.anchor);
  const chosen = show.sheet.ports.filter((port) => port.rail === cursor.rail);
  const [column, setColumn] = useState<RunColumn>(BY_RAIL[cursor.rail]);
  const [first, setFirst] = useState(chosen[low]?.number ?? 1);
  const [count, setCount] = useState(Math.abs(cursor.row - cursor.anchor) + 1);
  const [from, setFrom] = useState(first);
  const words = COLUMNS[column];
  const figure = (label: string, value: number, put: (value: number) => void) => (
    <TextField
      label={label}
      type="number"
      size="small"
      value={value}
      slotProps={{ htmlInput: { min: 1 } }}
      onChange={(event) => put(Number(event.target.value))}
    />
  );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void runStraight({ column, first, count, start: from }).then((done) => done && onClose());
      }}
    >
      <DialogTitle>Run straight</DialogTitle>
      <DialogContent>
        <div style={{ display: 'grid', gap: 16, width: 340, paddingTop: 8 }}>
          <TextField
            select
            label="What"
            size="small"
            value={column}
            onChange={(event) => setColumn(event.target.value as RunColumn)}
          >
            {Object.entries(COLUMNS).map(([id, one]) => (
              <MenuItem key={id} value={id}>
                {one.label}
              </MenuItem>
            ))}
          </TextField>
          {figure(`First ${words.targets}`, first, setFirst)}
          {figure('How many', count, setCount)}
          {figure(`Starting with ${words.from}`, from, setFrom)}
          <p className="hint">
            {words.targets} {first} to {first + count - 1} get {words.from} {from} and following, in ascending
            order.
          </p>
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button type="submit" variant="contained">
          Run straight
        </Button>
      </DialogActions>
    </form>
  );
}
