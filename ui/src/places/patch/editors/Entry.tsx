import TextField from '@mui/material/TextField';
import { useState } from 'react';

interface EntryProps {
  label: string;
  onKeep: (text: string) => void;
  autoFocus?: boolean;
}

/** Text that is kept with Enter. */
export function Entry({ label, onKeep, autoFocus = false }: EntryProps) {
  const [text, setText] = useState('');
  return (
    <TextField
      label={label}
      size="small"
      value={text}
      autoFocus={autoFocus}
      onChange={(event) => setText(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && text.trim() !== '' && onKeep(text)}
    />
  );
}
