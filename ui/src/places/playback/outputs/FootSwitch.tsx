import Button from '@mui/material/Button';
import { api, taken } from '../../../api/client';
import { complain } from '../../../api/edits';
import { useLivePlayer } from '../../../api/live';
import styles from '../../../look/look.module.css';
import { Pick } from '../song/SongFields';
import own from '../playback.module.css';

type Word = 'go' | 'around' | 'leave' | 'stop';

const WORDS: Record<Word, string> = {
  go: 'go',
  around: 'repeat section',
  leave: 'leave the loop',
  stop: 'stop (held, or twice)',
};
const NONE = 'none';

/** A foot switch that starts songs and leaves loops: by OSC, or by a MIDI device whose messages are learnt here. */
export function FootSwitch() {
  const foot = useLivePlayer()?.foot;
  if (!foot) return null;
  const put = (part: { midi?: string | null; keys?: Record<string, Word> }) =>
    void taken(
      api.POST('/api/player/foot', {
        body: { midi: foot.midi, keys: foot.keys as Record<string, Word>, ...part },
      }),
    ).catch(complain);
  const learn = (word: Word) =>
    foot.last && put({ keys: { ...foot.keys, [foot.last]: word } as Record<string, Word> });
  const forget = (name: string) =>
    put({
      keys: Object.fromEntries(Object.entries(foot.keys).filter(([one]) => one !== name)) as Record<
        string,
        Word
      >,
    });
  return (
    <section aria-label="Foot switch">
      <h2>Foot switch</h2>
      <p className={styles.quiet}>
        By OSC at UDP port {foot.osc ?? '–'}: /go, /around, /leave, /stop. By MIDI:{' '}
        {foot.devices.length === 0
          ? 'no device found.'
          : 'select a device, press a pedal, then assign an action.'}
      </p>
      {(foot.devices.length > 0 || foot.midi) && (
        <div className={styles.row}>
          <Pick
            label="MIDI device"
            value={foot.midi ?? NONE}
            among={[NONE, ...new Set([...foot.devices, ...(foot.midi ? [foot.midi] : [])])]}
            onPick={(device) => put({ midi: device === NONE ? null : device })}
          />
          {foot.last && (
            <>
              <span>
                Heard: <b>{foot.last}</b>
              </span>
              {(Object.keys(WORDS) as Word[]).map((word) => (
                <Button key={word} size="small" onClick={() => learn(word)}>
                  Action {WORDS[word]}
                </Button>
              ))}
            </>
          )}
        </div>
      )}
      <ul className={own.outputs}>
        {Object.entries(foot.keys).map(([name, word]) => (
          <li key={name}>
            {name} → <b>{WORDS[word]}</b>
            <Button size="small" aria-label={`Forget ${name}`} onClick={() => forget(name)}>
              Forget
            </Button>
          </li>
        ))}
      </ul>
      {foot.problem && <p className={styles.inLook}>{foot.problem}</p>}
    </section>
  );
}
