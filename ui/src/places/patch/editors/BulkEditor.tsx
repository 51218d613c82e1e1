import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import type { ReactNode } from 'react';
import type { Port, Settings, Show } from '../../../api/client';
import { set, step } from '../../../api/edits';
import { lookAt } from '../../../api/preview';
import { count } from '../../../look/format';
import { emptying, forAll, namesFor, numbersOf } from './cells';
import { Dyes } from '../../../app/controls/Dyes';
import { Entry } from './Entry';
import { LaneMove } from './LaneMove';
import { RangeMix } from './RangeMix';
import { RangeOrder } from './RangeOrder';
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
        <RangeOrder ports={ports} numbers={numbers} show={show} onClose={onClose} />
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
            <RangeMix channels={numbers} show={show} onClose={onClose} />
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
        {(rail === 'send' || rail === 'return') && <LaneMove way={rail} lanes={numbers} onClose={onClose} />}
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
