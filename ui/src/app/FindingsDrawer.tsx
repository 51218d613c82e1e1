import Button from '@mui/material/Button';
import Drawer from '@mui/material/Drawer';
import type { Finding } from '../api/client';
import { set, useShow } from '../api/queries';

const WORDS = { blocks: 'Stops the job', look: 'Needs a look' } as const;

/** What the checks find, each with its evidence and, where there is one, its fix. */
export function FindingsDrawer({ open, onClose }: { open: boolean; onClose: () => void }) {
  const findings = useShow().data?.findings ?? [];
  return (
    <Drawer anchor="right" open={open} onClose={onClose}>
      <section style={{ width: 420, padding: '18px 22px' }} aria-label="Findings">
        <div style={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center' }}>
          <h2>Findings</h2>
          <Button onClick={onClose}>Close</Button>
        </div>
        {findings.length === 0 ? (
          <p className="empty">Nothing is wrong with the plan. Every check passes.</p>
        ) : (
          findings.map((finding) => <FindingRow key={finding.id} finding={finding} />)
        )}
      </section>
    </Drawer>
  );
}

function FindingRow({ finding }: { finding: Finding }) {
  const { fix, path, severity, sentence } = finding;
  const shown = path.slice(0, 6).map((step) => step.label);
  return (
    <article className="finding">
      <p>
        <span className={`finding-word ${severity}`}>{WORDS[severity]}.</span> {sentence}
      </p>
      <p className="finding-path">
        {shown.join(' › ')}
        {path.length > shown.length && ` and ${path.length - shown.length} more`}
      </p>
      {fix && (
        <Button variant="outlined" onClick={() => void set(fix.settings, fix.label)}>
          {fix.label}
        </Button>
      )}
    </article>
  );
}
