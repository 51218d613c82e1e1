import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import TextField from '@mui/material/TextField';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { api, Refused, taken } from '../../api/client';
import { useCommand } from '../../api/edits';
import { tell as notify } from '../../api/notices';
import { count } from '../../look/format';
import styles from '../../look/look.module.css';
import { FilePick } from './FilePick';

/** Chooses files to upload, or a folder on the recording computer. */
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
        { error: { message: look.error ?? 'It could not be scanned.', where: 'folder' } },
        422,
      );
    onSeen(look.seen);
    await new Promise((done) => setTimeout(done, AGAIN_MS));
  }
}

// A line that is cut is tried again for so long; what was sent already stays.
const TRIES = 20;
const PAUSE_MS = 1500;

/** Sends a file. Gives why it was left out, or null: one that is not sound stops none of the others. */
async function sendOne(id: string, file: File, signal: AbortSignal): Promise<string | null> {
  for (let left = TRIES; ; left -= 1) {
    try {
      await taken(
        api.PUT('/api/deliveries/{id}/files/{name}', {
          params: { path: { id, name: file.name } },
          headers: { 'Content-Type': 'application/octet-stream' },
          body: file as unknown as string,
          bodySerializer: (body) => body as unknown as File,
          signal,
        }),
      );
      return null;
    } catch (error) {
      if (signal.aborted) return null;
      if (error instanceof Refused && !error.passing) return error.message;
      if (left <= 1) throw error;
      await new Promise((done) => setTimeout(done, PAUSE_MS));
    }
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
  /** Is told what was sent, so that it can be cleared away. */
  onSent: (id: string) => void;
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
  onSent,
  onClose,
  children,
}: SourcePickProps) {
  const open = useRef(new AbortController());
  useEffect(() => {
    const sending = new AbortController();
    open.current = sending;
    // A dialog that is closed sends nothing more.
    return () => sending.abort();
  }, []);
  const [folder, setFolder] = useState('');
  const [told, tell] = useState<string | null>(null);
  const look = useCommand(async (source: Source) => {
    const { look: id } = await taken(api.POST('/api/deliveries/look', { body: source }));
    await onLook(id, (seen) => tell(`Scanning each file: ${count(seen, 'sound file')} so far`));
  });
  const send = useCommand(async (chosen: File[]) => {
    const { signal } = open.current;
    const all = chosen.reduce((sum, file) => sum + file.size, 0);
    const { id } = await taken(api.POST('/api/deliveries', { body: { bytes: all } }));
    onSent(id);
    const leftOut: string[] = [];
    let bytes = 0;
    for (const [at, file] of chosen.entries()) {
      const part = all > 0 ? Math.floor((bytes * 100) / all) : 0;
      tell(`Sending ${at + 1} of ${chosen.length}, ${part} % so far: ${file.name}`);
      const why = await sendOne(id, file, signal);
      if (signal.aborted) return; // it was given up
      if (why !== null) leftOut.push(why);
      bytes += file.size;
    }
    const [first, ...more] = leftOut;
    if (first && leftOut.length === chosen.length)
      throw new Refused({ error: { message: first, where: 'files' } }, 422);
    if (first)
      notify({
        kind: 'info',
        text: `Left out: ${first}${more.length > 0 ? ` (and ${more.length} more)` : ''}`,
      });
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
            Files on this device
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
              Scan
            </Button>
          </div>
          {busy && <p className={styles.quiet}>{told ?? 'Scanning each file …'}</p>}
          {children}
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </>
  );
}
