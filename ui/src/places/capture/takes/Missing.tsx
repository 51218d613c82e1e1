import type { Take } from '../../../api/client';
import { clock, count } from '../../../look/format';
import { lanes, milliseconds } from './takes';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import own from '../capture.module.css';

const SHOWN = 6;

/** The gaps of a take, with their lanes. */
export function Missing({ take }: { take: Take }) {
  if (take.missing.length === 0) return null;
  const rest = take.missing.length - SHOWN;
  return (
    <div className={cx(styles.inLook, styles.figure)}>
      No audio arrived:
      <ul className={own.missing}>
        {take.missing.slice(0, SHOWN).map((one) => (
          <li key={one.at}>
            {clock(one.at / take.rate)} for {milliseconds(one.frames, take.rate)}, {lanes(one.lanes)}
          </li>
        ))}
        {rest > 0 && <li>and {rest} more, marked red below the waveform</li>}
        {take.gaps_total.unlisted > 0 && (
          <li>
            and {count(take.gaps_total.unlisted, 'gap')} not listed;{' '}
            {milliseconds(take.gaps_total.frames, take.rate)} in total across all streams
          </li>
        )}
      </ul>
    </div>
  );
}
