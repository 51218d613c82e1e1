import Dialog, { type DialogProps } from '@mui/material/Dialog';
import { type ComponentType, memo } from 'react';
import { bothClosed } from '../controls/closed';

interface Closing {
  onClose: () => void;
}

/** A dialog around what is there while it is open, and begins again each time. */
export const dialogOf = <P extends Closing>(
  Inside: ComponentType<P>,
  look: Pick<DialogProps, 'maxWidth' | 'fullWidth'> = {},
) =>
  memo(function DialogOf({ open, ...props }: P & { open: boolean }) {
    return (
      <Dialog open={open} onClose={props.onClose} {...look}>
        {open && <Inside {...(props as unknown as P)} />}
      </Dialog>
    );
  }, bothClosed);
