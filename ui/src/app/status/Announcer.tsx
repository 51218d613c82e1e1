import { useSaid } from '../../api/announce';
import styles from '../../look/look.module.css';

/** Announces the last edit to screen readers. */
export function Announcer() {
  return (
    <div className={styles.heard} role="status" aria-label="Last edit">
      {useSaid()}
    </div>
  );
}
