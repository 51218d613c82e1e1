import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Port, Show } from '../../../api/client';
import type { StepOptions } from '../../../api/edits';
import { takeCarefully } from '../../../api/preview';
import styles from '../../../look/look.module.css';
import { Entry } from './Entry';

interface OrderProps {
  ports: Port[];
  numbers: number[];
  show: Show;
  onClose: () => void;
}

/** Sources of a range in ascending order. Sockets and returns are given to channels in order, all others get theirs. */
export function RangeOrder({ ports, numbers, show, onClose }: OrderProps) {
  const [port] = ports;
  const [first = 1] = numbers;
  if (!port) return null;
  const run = (options: StepOptions) =>
    void takeCarefully(
      'run_straight',
      { count: numbers.length, ...options },
      (preview) => preview.losses.length > 0,
    ).then((done) => done && onClose());
  switch (port.rail) {
    case 'channel':
      return (
        <div className={styles.pair}>
          <Sockets show={show} onChoose={(start) => run({ column: 'socket', first, start })} />
          <Entry
            label="Returns from"
            onKeep={(text) => run({ column: 'return', first, start: Number(text) })}
          />
        </div>
      );
    case 'send':
      return (
        <Entry
          label="Carry channels in order, from"
          onKeep={(text) => run({ column: 'send', first, start: `desk/ch/${text.trim()}` })}
        />
      );
    case 'track':
      return (
        <Entry
          label="Record card sends in order, from"
          onKeep={(text) => run({ column: 'track_input', first, start: Number(text) })}
        />
      );
    case 'socket':
      return (
        <Entry
          label="To channels in order, from"
          autoFocus
          onKeep={(text) => run({ column: 'socket', first: Number(text), start: port.id })}
        />
      );
    case 'return':
      return (
        <Entry
          label="Take source of channels in order, from"
          autoFocus
          onKeep={(text) => run({ column: 'return', first: Number(text), start: first })}
        />
      );
  }
}

function Sockets({ show, onChoose }: { show: Show; onChoose: (id: string) => void }) {
  return (
    <TextField
      select
      label="Sockets from"
      size="small"
      value=""
      onChange={(event) => onChoose(event.target.value)}
      slotProps={{ select: { MenuProps: { slotProps: { paper: { style: { maxHeight: 320 } } } } } }}
    >
      {show.sheet.ports
        .filter((one) => one.rail === 'socket' && one.missing === null)
        .map((one) => (
          <MenuItem key={one.id} value={one.id}>
            {one.mark}
          </MenuItem>
        ))}
    </TextField>
  );
}
