import TextField from '@mui/material/TextField';
import MenuItem from '@mui/material/MenuItem';
import { type KeyboardEvent, useState } from 'react';
import type { Outputs, Schemas } from '../../../api/client';
import { setLevels } from '../../../api/press';
import { useSendLevels } from '../../../api/queries';
import { QueryState } from '../../../app/status/QueryState';
import { StateNote } from '../../../app/status/StateNote';
import { cx } from '../../../look/cx';
import { decibels } from '../../../look/format';
import styles from '../../../look/look.module.css';
import own from '../outputs.module.css';

type Page = Schemas['SendLevels'];
type Send = Page['sends'][number];

/** Decibels that a send goes to, and what counts as off. */
const HIGHEST = 10;
const OFF = -90;

interface SendsProps {
  outputs: Outputs;
  bus: number | null;
  onBus: (bus: number) => void;
}

/** The levels at which channels are sent to a mix: read from the desk, and set there by keyboard. They are never part of the plan. */
export function SendLevels({ outputs, bus, onBus }: SendsProps) {
  const mixes = outputs.buses.filter((one) => one.mode === 'mix' && one.right_of === null);
  const chosen = mixes.find((one) => one.number === bus) ?? mixes.find((one) => one.name !== '') ?? mixes[0];
  if (!chosen) return <StateNote kind="empty">Every bus is a subgroup; those have no send levels.</StateNote>;
  return (
    <section aria-label="Send levels" className={own.section}>
      <div className={styles.row}>
        <TextField
          select
          size="small"
          label="Mix"
          className={own.mixOfSends}
          value={chosen.number}
          onChange={(event) => onBus(Number(event.target.value))}
        >
          {mixes.map((one) => (
            <MenuItem key={one.number} value={one.number}>
              {`${one.number} ${one.name}`.trim()}
              {one.paired && `, with ${one.number + 1}`}
            </MenuItem>
          ))}
        </TextField>
        <span className={styles.hint}>
          <kbd>↑</kbd> <kbd>↓</kbd> move · type dB and <kbd>Enter</kbd> to set at the desk ·{' '}
          <kbd>Page Up</kbd> <kbd>Page Down</kbd> by 1 dB
        </span>
      </div>
      <Mix key={chosen.number} bus={chosen.number} />
    </section>
  );
}

function Mix({ bus }: { bus: number }) {
  return (
    <QueryState of={useSendLevels(bus)} waiting="Reading the levels …">
      {({ sends, levels }) => (
        <>
          {levels.from !== 'desk' && (
            <StateNote kind="away">The desk does not answer: its levels cannot be read or set.</StateNote>
          )}
          <table className={cx(styles.plain, own.sends)}>
            <thead>
              <tr>
                <th>Channel</th>
                <th>Source</th>
                <th>Taken</th>
                <th>Level (dB)</th>
              </tr>
            </thead>
            <tbody>
              {sends.map((send) => (
                <SendRow key={send.name} send={send} able={levels.from === 'desk'} />
              ))}
            </tbody>
          </table>
        </>
      )}
    </QueryState>
  );
}

const shown = ({ db, off }: Send) => (db === null ? '?' : off ? 'off' : decibels(db));

/** The value that somebody typed; null where it is none. */
export function typedLevel(text: string): number | null {
  if (/^\s*off\s*$/i.test(text)) return OFF;
  const value = Number(text.replace('−', '-').replace(',', '.'));
  return text.trim() === '' || !(value >= OFF && value <= HIGHEST) ? null : value;
}

function SendRow({ send, able }: { send: Send; able: boolean }) {
  const [typed, type] = useState<string | null>(null);
  const wrong = typed !== null && typed.trim() !== '' && typedLevel(typed) === null;
  const put = async (level: number) => {
    if (await setLevels({ [send.name]: level })) type(null);
  };
  const keys = (event: KeyboardEvent<HTMLInputElement>) => {
    const step = { PageUp: 1, PageDown: -1 }[event.key];
    if (event.key === 'ArrowDown') beside(event.currentTarget, 'nextElementSibling');
    else if (event.key === 'ArrowUp') beside(event.currentTarget, 'previousElementSibling');
    else if (event.key === 'Escape') type(null);
    else if (event.key === 'Enter') {
      const level = typedLevel(typed ?? '');
      if (level !== null) void put(level);
    } else if (step && send.db !== null) {
      const from = send.off ? OFF : send.db;
      void put(Math.min(HIGHEST, Math.max(OFF, Math.round((from + step) * 10) / 10)));
    } else return;
    event.preventDefault();
  };
  return (
    <tr data-dye={send.dye}>
      <td className={styles.figure}>{send.channel}</td>
      <td>
        <strong>{send.title}</strong>
        {send.muted && <span className={styles.inLook}> muted</span>}
      </td>
      <td className={styles.quiet}>{send.tap_label}</td>
      <td>
        <input
          className={cx(styles.find, styles.figure, own.sendLevel)}
          aria-label={`Level of ${send.title}`}
          aria-invalid={wrong}
          inputMode="decimal"
          disabled={!able}
          value={typed ?? shown(send)}
          onFocus={(event) => event.target.select()}
          onChange={(event) => type(event.target.value)}
          onBlur={() => type(null)}
          onKeyDown={keys}
        />
      </td>
    </tr>
  );
}

function beside(input: HTMLElement, way: 'nextElementSibling' | 'previousElementSibling') {
  input.closest('tr')?.[way]?.querySelector('input')?.focus();
}
