import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import { type ReactNode, useState } from 'react';
import type { Port, Settings, Show } from '../../../api/client';
import { set, step } from '../../../api/edits';
import { lookAt } from '../../../api/preview';
import { count } from '../../../look/format';
import { emptying, forAll, namesFor, numbersOf } from './cells';
import { Dyes } from '../../../app/controls/Dyes';
import { HEADS } from '../sheet/layout';
import { patch } from './patching';
import styles from '../../../look/look.module.css';

interface BulkProps {
  ports: Port[];
  cell: HTMLElement;
  show: Show;
  onClose: () => void;
}

/** Sets one setting for a whole range of a rail. */
export function BulkEditor({ ports, cell, show, onClose }: BulkProps) {
  const rail = ports[0]?.rail ?? 'channel';
  const numbers = numbersOf(ports);
  const words = `${HEADS[rail]} ${numbers[0]} to ${numbers.at(-1)}`;
  const close = (done: boolean) => done && onClose();
  const put = (settings: Settings, label: string) => void set(settings, `${label} of ${words}`).then(close);
  const give = (label: string, field: string, value: unknown) =>
    put(
      forAll(rail, numbers, field, () => value),
      label,
    );
  const giving = (label: string, field: string, value: unknown) => (
    <Button onClick={() => give(label, field, value)}>{label}</Button>
  );
  const name = (text: string) => {
    const names = namesFor(text, numbers.length);
    put(
      forAll(rail, numbers, 'name', (i) => names[i] ?? ''),
      'Names',
    );
  };
  const inherit = () =>
    put(
      { ...forAll(rail, numbers, 'name', () => ''), ...forAll(rail, numbers, 'colour', () => null) },
      'Inherited names',
    );
  const playTo = (text: string, shared: boolean) =>
    void step('play_to', { tracks: numbers, first: Number(text), shared }).then(close);
  const clear = () => {
    const all = ports.map((port) => emptying(show, port)).filter((one) => one !== null);
    void patch(show, Object.assign({}, ...all) as Settings, `Empty ${words}`).then(close);
  };
  return (
    <Popover open anchorEl={cell} onClose={onClose} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
      <div className={styles.editor} role="dialog" aria-label={`Set ${words}`}>
        <h3>
          {words}, {count(numbers.length, 'item')}
        </h3>
        {(rail === 'channel' || rail === 'track') && (
          <>
            <Entry label="Names (one name is numbered)" autoFocus onKeep={name} />
            <Dyes
              dyes={show.profile.dyes}
              value={null}
              onChoose={(dye) => give(`Dye ${dye}`, 'colour', dye)}
            />
          </>
        )}
        {rail === 'channel' && (
          <>
            <Entry
              label="Preamp gain (dB)"
              onKeep={(text) => give('Gain', 'gain', Number(text.replace('−', '-')))}
            />
            <Row>
              {giving('48 V on', 'phantom', true)}
              {giving('48 V off', 'phantom', false)}
              {giving('Lock', 'fixed', true)}
              {giving('Unlock', 'fixed', false)}
            </Row>
            <Row>
              <Button onClick={() => void lookAt('wet_capture', { channels: numbers }, { onDone: onClose })}>
                Add a processed track…
              </Button>
            </Row>
          </>
        )}
        {rail === 'send' && (
          <TextField
            select
            label="Tap"
            size="small"
            value=""
            autoFocus
            onChange={(event) =>
              give('Tap', 'tap', event.target.value === 'show' ? null : event.target.value)
            }
          >
            <MenuItem value="show">as the show</MenuItem>
            {show.profile.taps.map((tap) => (
              <MenuItem key={tap.id} value={tap.id}>
                {tap.label}
              </MenuItem>
            ))}
          </TextField>
        )}
        {rail === 'track' && (
          <>
            <Entry label="Play to card returns, from" onKeep={(text) => playTo(text, false)} />
            <Entry label="All share card return" onKeep={(text) => playTo(text, true)} />
          </>
        )}
        {rail === 'track' && (
          <Row>
            {giving('Arm', 'armed', true)}
            {giving('Disarm', 'armed', false)}
            <Button onClick={inherit}>Inherit names</Button>
          </Row>
        )}
        <Row>
          <Button color="error" onClick={clear}>
            Empty all
          </Button>
          <Button onClick={onClose}>Done</Button>
        </Row>
      </div>
    </Popover>
  );
}

const Row = ({ children }: { children: ReactNode }) => <div className={styles.row}>{children}</div>;

/** Text that is kept with Enter. */
function Entry({
  label,
  onKeep,
  autoFocus = false,
}: {
  label: string;
  onKeep: (text: string) => void;
  autoFocus?: boolean;
}) {
  const [text, setText] = useState('');
  return (
    <TextField
      label={label}
      size="small"
      value={text}
      autoFocus={autoFocus}
      onChange={(event) => setText(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && text.trim() !== '' && onKeep(text)}
    />
  );
}
