import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { Port, Show } from '../../../api/client';
import { takeCarefully } from '../../../api/preview';
import type { Rail } from '../sheet/layout';
import { NumberField } from '../../../app/controls/NumberField';
import { cx } from '../../../look/cx';
import { dialogOf } from '../../../app/dialogs/dialogOf';
import styles from '../../../look/look.module.css';
import own from '../sheet/sheet.module.css';

type RunColumn = 'socket' | 'send' | 'track_input' | 'track_output' | 'return';

const COLUMNS: Record<RunColumn, { label: string; from: string; targets: string }> = {
  socket: { label: 'Channels from sockets', targets: 'channel', from: 'socket' },
  send: { label: 'Card sends from channels', targets: 'card send', from: 'channel lane' },
  track_input: { label: 'Track inputs from card sends', targets: 'track', from: 'card send' },
  track_output: { label: 'Track outputs to card returns', targets: 'track', from: 'card return' },
  return: { label: 'Take sources from card returns', targets: 'channel', from: 'card return' },
};
const BY_RAIL: Record<Rail, RunColumn> = {
  socket: 'socket',
  channel: 'socket',
  send: 'send',
  track: 'track_input',
  return: 'return',
};

interface RunProps {
  onClose: () => void;
  /** The range that is chosen on the sheet. */
  chosen: Port[];
  show: Show;
}

/** Starts out with the range that is chosen on the sheet. */
function RunForm({ onClose, chosen, show }: RunProps) {
  const sockets = show.sheet.ports.filter((port) => port.rail === 'socket' && port.missing === null);
  const [column, setColumn] = useState<RunColumn>(BY_RAIL[chosen[0]?.rail ?? 'channel']);
  const bySocket = column === 'socket';
  const [first, setFirst] = useState(chosen[0]?.rail === 'socket' ? 1 : (chosen[0]?.number ?? 1));
  const [count, setCount] = useState(Math.max(1, chosen.length));
  const [from, setFrom] = useState(first);
  const [socket, setSocket] = useState((chosen[0]?.rail === 'socket' ? chosen[0].id : sockets[0]?.id) ?? '');
  const words = COLUMNS[column];
  const run = () =>
    void takeCarefully(
      'run_straight',
      { column, first, count, start: bySocket ? socket : from },
      (preview) => preview.losses.length > 0,
    ).then((done) => done && onClose());
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        run();
      }}
    >
      <DialogTitle>Patch in order</DialogTitle>
      <DialogContent>
        <div className={cx(styles.stack, own.narrow)}>
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
          <NumberField label={`First ${words.targets}`} value={first} onChange={setFirst} />
          <NumberField label="Count" value={count} onChange={setCount} />
          {bySocket ? (
            <TextField
              select
              label="Starting with socket"
              size="small"
              value={socket}
              onChange={(event) => setSocket(event.target.value)}
              slotProps={{ select: { MenuProps: { slotProps: { paper: { style: { maxHeight: 320 } } } } } }}
            >
              {sockets.map((port) => (
                <MenuItem key={port.id} value={port.id}>
                  {port.mark}
                </MenuItem>
              ))}
            </TextField>
          ) : (
            <NumberField label={`Starting with ${words.from}`} value={from} onChange={setFrom} />
          )}
          <p className={styles.hint}>
            {words.targets} {first} to {first + count - 1} in order, starting with the selected {words.from}.
          </p>
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button type="submit" variant="contained">
          Patch in order
        </Button>
      </DialogActions>
    </form>
  );
}

export const RunStraightDialog = dialogOf(RunForm);
