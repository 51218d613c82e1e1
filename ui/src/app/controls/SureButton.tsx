import Button from '@mui/material/Button';
import { useState } from 'react';

interface SureProps {
  /** What is deleted, for those who hear the button instead of seeing it. */
  what: string;
  /** What that is, where others beside it can be deleted, too. */
  kind?: string;
  onSure: () => void;
}

/** Deletes something for good, when asked twice. */
export function SureButton({ what, kind, onSure }: SureProps) {
  const [asked, ask] = useState(false);
  return asked ? (
    <Button
      size="small"
      color="error"
      aria-label={`Delete ${what} for good`}
      onBlur={() => ask(false)}
      onClick={onSure}
      autoFocus
    >
      Delete for good
    </Button>
  ) : (
    <Button size="small" aria-label={`Delete ${what}`} onClick={() => ask(true)}>
      {kind ? `Delete ${kind}…` : 'Delete…'}
    </Button>
  );
}
