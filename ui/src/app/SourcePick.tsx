import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import TextField from '@mui/material/TextField';
import { type ReactNode, useState } from 'react';
import { api, Refused, taken } from '../api/client';
import { useCommand } from '../api/edits';
import { count } from '../look/format';
import styles from '../look/look.module.css';
import { FilePick } from './FilePick';

/** Where files are: sent, or in a folder of this computer. */
export type Source = { id: string } | { folder: string };

const AGAIN_MS = 250;

interface Looked<P> {
  plan?: P | null;
  state: string;
  seen: number;
  error: string | null;
}

/** What a look into a folder found; it is carried out in its own time and asked for until it is over. */
export async function lookedInto<P>(
  ask: () => Promise<Looked<P>>,
  onSeen: (files: number) => void,
): Promise<P> {
  for (;;) {
    const look = await ask();
    if (look.plan) return look.plan;
    if (look.state === 'failed')
      throw new Refused(
        { error: { message: look.error ?? 'It could not be looked at.', where: 'folder' } },
        422,
      );
    onSeen(look.seen);
    await new Promise((done) => setTimeout(done, AGAIN_MS));
  }
}

interface SourcePickProps {
  /** What may be brought in, in words. */
  words: string;
  /** What the files are, for those who hear the button. */
  files: string;
  folderLabel: string;
  placeholder: string;
  /** Waits for what was found at a look, and takes it. */
  onLook: (look: string, onSeen: (files: number) => void) => Promise<void>;
  onClose: () => void;
  children?: ReactNode;
}

/** Files from this browser, or a folder on the recording computer; looked into, and nothing done yet. */
export function SourcePick({
  words,
  files,
  folderLabel,
  placeholder,
  onLook,
  onClose,
  children,
}: SourcePickProps) {
  const [folder, setFolder] = useState('');
  const [told, tell] = useState<string | null>(null);
  const look = useCommand(async (source: Source) => {
    const { look: id } = await taken(api.POST('/api/deliveries/look', { body: source }));
    await onLook(id, (seen) => tell(`Looking at each file: ${count(seen, 'sound file')} so far`));
  });
  const send = useCommand(async (chosen: File[]) => {
    const { id } = await taken(api.POST('/api/deliveries', { body: {} }));
    for (const [at, file] of chosen.entries()) {
      tell(`Sending ${at + 1} of ${chosen.length}: ${file.name}`);
      await taken(
        api.PUT('/api/deliveries/{id}/files/{name}', {
          params: { path: { id, name: file.name } },
          headers: { 'Content-Type': 'application/octet-stream' },
          body: file as unknown as string,
          bodySerializer: (body) => body as unknown as File,
        }),
      );
    }
    await look.mutateAsync({ id });
  });
  const busy = look.isPending || send.isPending;
  const lookAtFolder = () => {
    if (folder.trim() !== '' && !busy) look.mutate({ folder: folder.trim() });
  };
  return (
    <>
      <DialogContent>
        <div className={styles.stack}>
          <p>{words}</p>
          <FilePick label={files} multiple disabled={busy} onPick={(chosen) => send.mutate(chosen)}>
            Files from here
          </FilePick>
          <div className={styles.row}>
            <TextField
              label={folderLabel}
              size="small"
              className={styles.grow}
              placeholder={placeholder}
              value={folder}
              onChange={(event) => setFolder(event.target.value)}
              onKeyDown={(event) => event.key === 'Enter' && lookAtFolder()}
            />
            <Button variant="outlined" disabled={folder.trim() === '' || busy} onClick={lookAtFolder}>
              Look at it
            </Button>
          </div>
          {busy && <p className={styles.quiet}>{told ?? 'Looking at each file …'}</p>}
          {children}
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </>
  );
}
