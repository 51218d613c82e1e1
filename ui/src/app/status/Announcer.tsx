import { useSaid } from '../../api/announce';
import styles from '../../look/look.module.css';

/** What the last edit did, for a screen reader. */
export function Announcer() {
  return (
    <div className={styles.heard} role="status" aria-label="Last edit">
      {useSaid()}
    </div>
  );
}
