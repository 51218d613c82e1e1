import MenuItem from '@mui/material/MenuItem';
import { useQuery } from '@tanstack/react-query';
import { api, taken } from '../../../api/client';
import { complain } from '../../../api/edits';
import { useLivePlayer } from '../../../api/live';
import styles from '../../../look/look.module.css';
import { Select } from '../song/SongFields';

/** A sound card of this computer instead of an interface beside it: its outputs are cabled in the same way. */
export function SoundCard() {
  const sound = useLivePlayer()?.sound;
  const devices = useQuery({
    queryKey: ['player', 'sound-devices'],
    queryFn: () => taken(api.GET('/api/player/sound-devices')),
    retry: false,
  });
  const list = devices.data ?? [];
  const known =
    sound && !list.some((one) => one.id === sound.id) ? [{ id: sound.id, words: sound.words }] : [];
  if (list.length === 0 && known.length === 0)
    return <span className={styles.quiet}>This computer has no sound card for playback.</span>;
  const choose = (id: string) =>
    void taken(api.POST('/api/player/sound', { body: { id: id || null } })).catch(complain);
  return (
    <>
      <Select label="Sound card of this computer" value={sound?.id ?? ''} onChange={choose}>
        <MenuItem value="">no sound card of this computer</MenuItem>
        {[...known, ...list].map((one) => (
          <MenuItem key={one.id} value={one.id}>
            {one.words}
          </MenuItem>
        ))}
      </Select>
      {sound && (
        <span className={styles.quiet}>
          {sound.state === 'running'
            ? `${sound.outputs} outputs; Mute all takes up to 0.1 s.`
            : 'Not found; retrying every second.'}
        </span>
      )}
    </>
  );
}
