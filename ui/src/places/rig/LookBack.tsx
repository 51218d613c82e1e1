import { useLiveState } from '../../api/live';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

const megabytes = (bytes: number) => `${Math.round(bytes / 1e6)} MB`;

/** What the recorder holds of the past, and what that costs. */
export function LookBack() {
  const held = useLiveState()?.recorder.look_back;
  if (!held) return null;
  return (
    <p className={cx(styles.figure, styles.quiet)}>
      Pre-record buffer: {Math.floor(held.seconds)} s, {megabytes(held.bytes)}; at most {held.most_seconds} s
      or {megabytes(held.most_bytes)}.
    </p>
  );
}
