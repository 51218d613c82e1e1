import type { KeyboardEvent } from 'react';
import styles from '../../look/look.module.css';

interface DyesProps {
  dyes: string[];
  value: string | null;
  onChoose: (dye: string) => void;
  autoFocus?: boolean;
}

/** The dyes, chosen by pointer, or by arrow keys and Enter. */
export function Dyes({ dyes, value, onChoose, autoFocus }: DyesProps) {
  const onKey = (event: KeyboardEvent<HTMLElement>) => {
    const way = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (!way) return;
    const all = [...event.currentTarget.querySelectorAll('button')];
    const at = all.indexOf(document.activeElement as HTMLButtonElement);
    all[(at + way + all.length) % all.length]?.focus();
    event.preventDefault();
  };
  return (
    <div role="radiogroup" aria-label="Dye" className={styles.dyes} onKeyDown={onKey}>
      {dyes.map((dye, i) => (
        <button
          key={dye}
          type="button"
          role="radio"
          aria-checked={dye === value}
          aria-label={dye}
          title={dye}
          autoFocus={autoFocus === true && (value === null ? i === 0 : dye === value)}
          onClick={() => onChoose(dye)}
          data-dye={dye}
        />
      ))}
    </div>
  );
}
