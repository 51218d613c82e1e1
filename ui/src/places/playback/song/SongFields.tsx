import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type ReactNode, useRef, useState } from 'react';
import { cx } from '../../../look/cx';
import own from '../playback.module.css';

interface TextProps {
  label?: string;
  /** For those who hear it, where the table says what it is. */
  spoken?: string;
  value: string;
  onKeep: (text: string) => void;
  wide?: boolean;
  narrow?: boolean;
}

/** Kept when it is left or with Enter. */
export function Text({ label, spoken, value, onKeep, wide, narrow }: TextProps) {
  return (
    <TextField
      key={value}
      size="small"
      {...(label ? { label } : { slotProps: { htmlInput: { 'aria-label': spoken } } })}
      defaultValue={value}
      className={cx(wide && own.wide, narrow && own.figure)}
      onBlur={(event) => event.target.value !== value && onKeep(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && (event.target as HTMLInputElement).blur()}
    />
  );
}

interface PickProps {
  label: string;
  value: string;
  among: string[];
  words?: Record<string, string>;
  onPick: (value: string) => void;
}

export const Pick = ({ label, value, among, words, onPick }: PickProps) => (
  <TextField
    select
    size="small"
    label={label}
    className={own.pickOne}
    value={value}
    onChange={(event) => onPick(event.target.value)}
  >
    {among.map((one) => (
      <MenuItem key={one} value={one}>
        {words?.[one] ?? one}
      </MenuItem>
    ))}
  </TextField>
);

interface SelectProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  children: ReactNode;
}

/** One of a list in a table. */
export const Select = ({ label, value, onChange, children }: SelectProps) => (
  <TextField
    select
    size="small"
    value={value}
    onChange={(event) => onChange(event.target.value)}
    slotProps={{ htmlInput: { 'aria-label': label }, select: { displayEmpty: true } }}
  >
    {children}
  </TextField>
);

const TAPS = 8;
const PAUSE_MS = 2000;

/** Tapped along with the song: the tempo of the last taps. */
export function Tap({ onTempo }: { onTempo: (bpm: number) => void }) {
  const taps = useRef<number[]>([]);
  const [bpm, tell] = useState<number | null>(null);
  const tap = () => {
    const now = performance.now();
    const last = taps.current.at(-1);
    taps.current =
      last !== undefined && now - last < PAUSE_MS ? [...taps.current.slice(1 - TAPS), now] : [now];
    const [first] = taps.current;
    if (taps.current.length > 3 && first !== undefined)
      tell(Math.round((600_000 * (taps.current.length - 1)) / (now - first)) / 10);
  };
  return (
    <>
      <Button size="small" variant="outlined" onClick={tap}>
        Tap{bpm !== null && ` ${bpm}`}
      </Button>
      {bpm !== null && (
        <Button size="small" onClick={() => onTempo(Math.min(400, Math.max(20, bpm)))}>
          Take {bpm}
        </Button>
      )}
    </>
  );
}
