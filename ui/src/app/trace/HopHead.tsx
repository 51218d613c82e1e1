import { jumpTo } from '../shell/jump';
import styles from '../../look/look.module.css';
import own from './trace.module.css';

/** A hop's name, and the way to where it is set. */
export function HopHead({ label, setting }: { label: string; setting: string | null }) {
  return (
    <span className={own.hopHead}>
      <span className={styles.strong}>{label}</span>
      {setting && (
        <button
          type="button"
          className={styles.jump}
          aria-label={`Change ${label}`}
          onClick={() => jumpTo(setting)}
        >
          change
        </button>
      )}
    </span>
  );
}
