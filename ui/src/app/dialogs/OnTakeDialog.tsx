import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useOnTakeQuestion } from '../../api/ontake';

/** Asks about channels on take before a show is opened or the plan is sent. */
export function OnTakeDialog() {
  const question = useOnTakeQuestion();
  if (!question) return null;
  return (
    <Dialog open onClose={() => question.answer(null)} maxWidth="sm">
      <DialogTitle>Channels are on take</DialogTitle>
      <DialogContent>{question.text}</DialogContent>
      <DialogActions>
        <Button onClick={() => question.answer(null)}>Cancel</Button>
        <Button onClick={() => question.answer('keep')}>Leave on take</Button>
        <Button variant="contained" onClick={() => question.answer('stage')}>
          Return to stage first
        </Button>
      </DialogActions>
    </Dialog>
  );
}
