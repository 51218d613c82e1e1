import Button from '@mui/material/Button';
import type { Finding, Show } from '../../api/client';
import { set } from '../../api/edits';
import { count } from '../../look/format';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './capture.module.css';

const KINDS = ['no-send', 'no-track', 'not-armed', 'beyond-card'] as const;

/** Sources that the next capture would miss, with reasons and fixes. */
export function LeftOut({ show }: { show: Show }) {
  const { uncaptured, findings } = show;
  if (uncaptured.length === 0) return null;
  return (
    <details className={cx(styles.note, styles.look, own.leftOut)}>
      <summary>{count(uncaptured.length, 'source')} will not be captured</summary>
      {KINDS.map((kind) => {
        const those = uncaptured.filter((one) => one.kind === kind);
        if (those.length === 0) return null;
        return (
          <Those key={kind} those={those} finding={findings.find((one) => one.id === findingOf(kind))} />
        );
      })}
    </details>
  );
}

const findingOf = (kind: (typeof KINDS)[number]) =>
  kind === 'beyond-card' ? 'card-mode' : `not-captured/${kind}`;

function Those({ those, finding }: { those: Show['uncaptured']; finding: Finding | undefined }) {
  const fix = finding?.fix;
  return (
    <>
      <ul>
        {those.map((one) => (
          <li key={one.at}>
            <b>{one.title}</b>: {one.why}
          </li>
        ))}
      </ul>
      {finding?.accepted && <p className={styles.quiet}>Accepted: {finding.accepted}</p>}
      {fix && (
        <Button size="small" variant="outlined" onClick={() => void set(fix.settings, fix.label)}>
          {fix.label}
        </Button>
      )}
    </>
  );
}
