import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import { memo, useEffect, useState } from 'react';
import { LineIcon } from '../controls/LineIcon';
import { Words } from './Words';

const TYPING = 'input, textarea, select, [contenteditable], [role=dialog]';

/** The glossary, by the button or by "?". On a page with its own keys, "?" lists those, with the glossary below. */
export const HelpButton = memo(function HelpButton({ byKey }: { byKey: boolean }) {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    if (!byKey) return;
    const press = (event: KeyboardEvent) => {
      const { target } = event;
      if (event.key !== '?' || (target instanceof Element && target.closest(TYPING))) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [byKey]);
  return (
    <>
      <IconButton aria-label="Glossary" title="Glossary (?)" onClick={() => setOpen(true)}>
        <LineIcon path="M12 3a9 9 0 1 0 .01 0M9.5 9.5c0-3.4 5-3.2 5 0 0 2-2.5 2.2-2.5 4.5m0 2.6v.4" />
      </IconButton>
      <Dialog open={open} onClose={() => setOpen(false)} maxWidth="md" aria-labelledby="glossary-title">
        <DialogTitle id="glossary-title">Glossary</DialogTitle>
        <DialogContent tabIndex={0}>
          <Words />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)}>Close</Button>
        </DialogActions>
      </Dialog>
    </>
  );
});
