import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useQuery } from '@tanstack/react-query';
import { api, type Take, taken } from '../../api/client';
import { QueryState } from '../../app/status/QueryState';
import { Notes } from '../../app/dialogs/Notes';
import { count } from '../../look/format';
import styles from '../../look/look.module.css';

/** A take of another show plays by the names of its tracks, and only when somebody has seen where. */
export function ByNameDialog({
  take,
  onClose,
  onPlay,
}: {
  take: Take;
  onClose: () => void;
  onPlay: () => void;
}) {
  const asked = useQuery({
    queryKey: ['takes', 'by-name', take.id],
    queryFn: () => taken(api.GET('/api/takes/{take}/by-name', { params: { path: { take: take.id } } })),
  });
  const matched = asked.data?.matched ?? [];
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle>
        Take {take.number} {take.name} is of another show
      </DialogTitle>
      <DialogContent>
        <QueryState of={asked} waiting="Matching the names …">
          {(found) => (
            <div className={styles.stack}>
              <p>
                Captured in {found.project}. Each track plays where this show&rsquo;s track of the same name
                does: {matched.length} of {count(matched.length + found.missing.length, 'track')}.
              </p>
              <Notes
                title="Plays"
                kind="well"
                lines={matched.map((one) => `${one.name} to card return ${one.outputs.join(' and ')}`)}
              />
              <Notes title="Not played: no track here has its name" kind="look" lines={found.missing} />
            </div>
          )}
        </QueryState>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={matched.length === 0} onClick={onPlay} autoFocus>
          Play {count(matched.length, 'track')}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
