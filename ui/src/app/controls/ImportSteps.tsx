import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import { type ReactNode, useState } from 'react';
import { useSent } from './sent';
import { SourcePick } from './SourcePick';

/** A finished scan: its id, and what the application proposes. */
export interface Scan<P> {
  look: string;
  plan: P;
  onBack: () => void;
  onDone: () => void;
}

interface StepsProps<P> {
  words: string;
  files: string;
  folderLabel: string;
  placeholder: string;
  planOf: (look: string, onSeen: (files: number) => void) => Promise<P>;
  onClose: () => void;
  children: (scan: Scan<P>) => ReactNode;
}

/** The two steps of an import: choose and scan files, then look over the proposal. Uploads are deleted unless they are imported. */
export function ImportSteps<P>({ planOf, onClose, children, ...words }: StepsProps<P>) {
  const [seen, see] = useState<{ look: string; plan: P } | null>(null);
  const sent = useSent();
  const onBack = () => {
    sent.giveUp();
    see(null);
  };
  const onDone = () => {
    sent.used();
    onClose();
  };
  if (seen) return <>{children({ ...seen, onBack, onDone })}</>;
  return (
    <SourcePick
      {...words}
      onLook={async (look, onSeen) => see({ look, plan: await planOf(look, onSeen) })}
      onSent={(id) => sent.keep(id)}
      onClose={onClose}
    />
  );
}

interface ActionsProps {
  label: string;
  disabled: boolean;
  onBack: () => void;
  onImport: () => void;
}

/** The buttons below a proposal. */
export const ImportActions = ({ label, disabled, onBack, onImport }: ActionsProps) => (
  <DialogActions>
    <Button onClick={onBack}>Back</Button>
    <Button variant="contained" disabled={disabled} onClick={onImport}>
      {label}
    </Button>
  </DialogActions>
);
