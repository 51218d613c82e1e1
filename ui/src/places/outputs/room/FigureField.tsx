import { useState } from 'react';
import type { Settings } from '../../../api/client';
import { set } from '../../../api/edits';
import styles from '../../../look/look.module.css';
import own from '../outputs.module.css';

interface FigureProps {
  label: string;
  path: string;
  value: number | null;
  unit?: string;
  /** Of what is typed to what is set, such as 0.3048 for feet; 1 where they are the same. */
  scale?: number;
  digits?: number;
  onSet?: (settings: Settings) => void;
}

const plain = (text: string) => text.replace('−', '-').replace(',', '.').trim();

/** A figure that may be empty, set when the field is left or Enter is pressed. */
export function FigureField({ label, path, value, unit, scale = 1, digits = 2, onSet }: FigureProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const shown = value === null ? '' : String(Number((value / scale).toFixed(digits))).replace('-', '−');
  const keep = () => {
    if (draft === null) return;
    setDraft(null);
    const text = plain(draft);
    const next = text === '' ? null : Number(text) * scale;
    if (draft === shown || Number.isNaN(next)) return;
    const settings = { [path]: next === null ? null : Number(next.toFixed(4)) };
    if (onSet) onSet(settings);
    else void set(settings);
  };
  return (
    <span className={own.figureField}>
      <input
        className={styles.find}
        aria-label={unit ? `${label}, ${unit}` : label}
        inputMode="decimal"
        value={draft ?? shown}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === 'Enter') keep();
          if (event.key === 'Escape') setDraft(null);
        }}
      />
      {unit && <small className={styles.quiet}>{unit}</small>}
    </span>
  );
}
