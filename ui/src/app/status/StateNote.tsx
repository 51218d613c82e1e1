import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './statenote.module.css';

interface StateNoteProps {
  /** waiting: it is being read; empty: there is nothing yet; error: it could not be read; away: what it needs is away, or it may be old. */
  kind: 'waiting' | 'empty' | 'error' | 'away';
  /** Tries again. */
  again?: (() => void) | undefined;
  children: ReactNode;
}

/** What a place or a part of it says where there is nothing to show, or something is wrong with what is shown. */
export function StateNote({ kind, again, children }: StateNoteProps) {
  const wrong = kind === 'error' || kind === 'away';
  return (
    <div
      className={cx(
        wrong ? cx(styles.note, kind === 'error' ? styles.stop : styles.look) : own.quiet,
        own[kind],
      )}
      role={kind === 'error' ? 'alert' : 'status'}
    >
      {children}{' '}
      {again && (
        <Button size="small" onClick={again}>
          Try again
        </Button>
      )}
    </div>
  );
}
