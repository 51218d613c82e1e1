import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { api, type Export, taken } from '../../api/client';
import { useCommand } from '../../api/edits';
import { refresh } from '../../api/queries';
import { size } from '../../look/format';
import { SureButton } from '../controls/SureButton';
import styles from '../../look/look.module.css';
import own from './joblist.module.css';

/** Jobs with progress, errors and actions. */
export function JobList({ jobs }: { jobs: Export[] }) {
  if (jobs.length === 0) return null;
  return (
    <ul className={own.jobs}>
      {jobs.map((job) => (
        <JobLine key={job.id} job={job} />
      ))}
    </ul>
  );
}

const WORDS: Record<Export['state'], string> = {
  waiting: 'waits',
  running: 'in progress',
  done: 'ready',
  failed: 'failed',
  cancelled: 'ended',
  unreadable: 'cannot be read',
};

function JobLine({ job }: { job: Export }) {
  const path = { params: { path: { id: job.id } } };
  const cancel = useCommand(async () => {
    await taken(api.POST('/api/exports/{id}/cancel', { ...path, body: {} }));
    await refresh('exports');
  });
  const remove = useCommand(async () => {
    await taken(api.DELETE('/api/exports/{id}', path));
    await refresh('exports');
  });
  const open = job.state === 'waiting' || job.state === 'running';
  const share = job.total > 0 ? (100 * job.done) / job.total : 0;
  return (
    <li>
      <span className={styles.strong}>{job.name}</span>{' '}
      <span className={styles.quiet}>{WORDS[job.state]}</span>
      {open && (
        <LinearProgress
          variant={job.total > 0 ? 'determinate' : 'indeterminate'}
          value={share}
          aria-label={`Progress of ${job.name}`}
        />
      )}
      {job.error && <span className={styles.inStop}> {job.error}</span>}
      {job.state === 'done' && job.form === 'zip' && (
        <Button size="small" href={`/api/exports/${job.id}/file`}>
          Download {size(job.total / 2)}
        </Button>
      )}
      {job.state === 'done' && (job.form === 'folder' || job.place) && (
        <small className={styles.quiet}> {job.result}</small>
      )}
      {open ? (
        <Button size="small" onClick={() => cancel.mutate(undefined)}>
          End
        </Button>
      ) : job.place ? (
        // What lies on somebody's disk is theirs, and stays.
        <Button
          size="small"
          aria-label={`Remove ${job.name} from this list`}
          onClick={() => remove.mutate(undefined)}
        >
          Remove from list
        </Button>
      ) : (
        <SureButton
          kind="export"
          what={`what was made of ${job.name}`}
          onSure={() => remove.mutate(undefined)}
        />
      )}
    </li>
  );
}
