import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

interface Props<View extends string> {
  label: string;
  views: readonly { id: View; name: string }[];
  view: View;
  className?: string | undefined;
  onTurn: (view: View) => void;
}

/** Tabs that switch between the views of a page. */
export function ViewTabs<View extends string>({ label, views, view, className, onTurn }: Props<View>) {
  return (
    <div className={className ?? styles.row} role="tablist" aria-label={label}>
      {views.map((one) => (
        <button
          key={one.id}
          type="button"
          role="tab"
          aria-selected={view === one.id}
          className={cx(styles.chip, view === one.id && styles.on)}
          onClick={() => onTurn(one.id)}
        >
          {one.name}
        </button>
      ))}
    </div>
  );
}
