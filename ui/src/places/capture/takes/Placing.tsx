import Button from '@mui/material/Button';
import { clock } from '../../../look/format';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';

/** Frames of a take; a place when both are the same. */
export interface Part {
  from: number;
  to: number;
}

interface PlacingProps {
  chosen: Part | null;
  rate: number;
  onMark: () => void;
  onSection: () => void;
}

/** What can be done with the place or the part that is chosen in the picture. */
export function Placing({ chosen, rate, onMark, onSection }: PlacingProps) {
  const wide = chosen !== null && chosen.to > chosen.from;
  return (
    <>
      <Button variant="outlined" size="small" disabled={!chosen} onClick={onMark}>
        Add marker&nbsp;<kbd>M</kbd>
      </Button>
      <Button variant="outlined" size="small" disabled={!wide} onClick={onSection}>
        Add section&nbsp;<kbd>S</kbd>
      </Button>
      <span className={cx(styles.quiet, styles.figure)}>
        {chosen
          ? wide
            ? `${clock(chosen.from / rate)} to ${clock(chosen.to / rate)} selected`
            : `${clock(chosen.from / rate)} selected`
          : 'Click the waveform to set a position; drag to select a range.'}
      </span>
    </>
  );
}
