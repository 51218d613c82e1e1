import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { api, taken } from '../api/client';
import { useLive } from '../api/live';
import { tell } from '../api/notices';
import { readDesk, useCommand, useDifferences } from '../api/queries';

const shown = (value: unknown) => (value === null || value === '' ? 'none' : String(value));

/** Where plan and desk differ, and both ways into step. */
export function DeskDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { state } = useLive();
  const differences = useDifferences(open);
  const list = differences.data ?? [];
  const send = useCommand(async () => {
    const { problems } = await taken(api.POST('/api/desk/send', { body: {} }));
    if (problems[0]) tell({ kind: 'error', text: problems[0] });
    await differences.refetch();
  });
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>Plan and desk</DialogTitle>
      <DialogContent>
        {!state?.desk.up ? (
          <p>
            The desk does not answer. The plan is kept; what you change now can be sent when the desk is back.
          </p>
        ) : list.length === 0 ? (
          <p>The desk is in step: every setting of the plan was read back equal.</p>
        ) : (
          <table style={{ width: '100%', textAlign: 'left', borderSpacing: '0 6px' }}>
            <thead>
              <tr>
                <th>Setting</th>
                <th>Plan</th>
                <th>Desk</th>
              </tr>
            </thead>
            <tbody>
              {list.map((one) => (
                <tr key={one.path}>
                  <td>{one.path}</td>
                  <td className="strong">{shown(one.plan)}</td>
                  <td className="strong">{shown(one.desk)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </DialogContent>
      <DialogActions>
        {list.length > 0 && (
          <>
            <Button onClick={() => void readDesk().then(() => differences.refetch())}>
              Read desk into plan
            </Button>
            <Button variant="contained" disabled={send.isPending} onClick={() => send.mutate(undefined)}>
              Send plan to desk
            </Button>
          </>
        )}
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
