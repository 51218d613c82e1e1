import { useLiveState } from '../../api/live';
import { count } from '../../look/format';
import styles from '../../look/look.module.css';

/** On screens without the state band: that channels are on take. */
export function OnTakeLine() {
  const take = useLiveState()?.positions.take ?? 0;
  if (take === 0) return null;
  return (
    <div className={styles.lost} role="alert">
      {count(take, 'channel')} on take: no stage input there.
    </div>
  );
}
