import TextField from '@mui/material/TextField';
import { useState } from 'react';
import own from '../capture.module.css';

interface BeginsProps {
  title: string;
  /** Samples. */
  offset: number;
  rate: number;
  onMove: (offset: number) => void;
}

// A day, as the application has it.
const LATEST = 24 * 3600;

/** Where a recording begins, in seconds after the first; moved by typing. */
export function Begins({ title, offset, rate, onMove }: BeginsProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = (offset / rate).toFixed(3);
  const seconds = Number((typed ?? shown).replace(',', '.'));
  const wrong = !(seconds >= 0 && seconds <= LATEST);
  const keep = () => {
    if (typed !== null && !wrong && typed.trim() !== '') onMove(Math.round(seconds * rate));
    setTyped(null);
  };
  return (
    <TextField
      variant="standard"
      size="small"
      className={own.begins}
      error={wrong}
      value={typed ?? shown}
      slotProps={{ htmlInput: { 'aria-label': `Start of ${title}`, inputMode: 'decimal' } }}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Enter') keep();
      }}
    />
  );
}
