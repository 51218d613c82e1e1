import { useRef } from 'react';
import type { Playback, PlaybackItem, PlaybackRole, Song } from '../../../api/client';
import { useLivePlayer } from '../../../api/live';
import { useStem } from '../../../api/queries';
import { cx } from '../../../look/cx';
import { decibels } from '../../../look/format';
import styles from '../../../look/look.module.css';
import { dyeOf } from '../../../look/tokens';
import { outputLevel, playing } from '../../../meters/song';
import { type Draw, useCanvas } from '../../../meters/useCanvas';
import { ZoomButtons, useWheel } from './Closeness';
import { atTempo, type Part, useCloser } from './closer';
import { press } from '../player';
import own from '../playback.module.css';

interface ClothProps {
  song: Song;
  item: PlaybackItem;
  playback: Playback;
  on: boolean;
}

const COLUMNS = 500;
/** 60 dB of the 95 that are told are drawn. */
const FLOOR = 95;
const THREADS = ['woad', 'walnut', 'weld', 'heather', 'verdigris', 'cochineal', 'lichen', 'terracotta'];
const CUES = { click: 'Click', guide: 'Spoken guide', pilot: 'Pilot', timecode: 'Timecode' } as const;

/** The sections across, and below them a thread for each part, which ends at its outputs with who hears it. */
export function Cloth({ song, item, playback, on }: ClothProps) {
  const roles = [...new Set(song.stems.map((stem) => stem.role))];
  const cues = playback.roles.filter(
    (role) =>
      role.kind !== 'parts' &&
      !roles.includes(role.name) &&
      (role.kind !== 'click' || (song.click.on !== false && song.click.stem === null)) &&
      (role.kind !== 'guide' || song.guide.on === true),
  );
  const closer = useCloser(song.frames, on);
  const cloth = useRef<HTMLDivElement>(null);
  useWheel(cloth, closer.widen, song.frames, closer.part);
  return (
    <div className={own.cloth} ref={cloth}>
      <Sections song={song} item={item} on={on} part={closer.part} />
      {roles.map((name, at) => (
        <Thread
          key={name}
          name={name}
          dye={THREADS[at % THREADS.length] ?? 'iron'}
          role={playback.roles.find((role) => role.name === name)}
          song={song}
          on={on}
          part={closer.part}
          tempo={item.tempo}
        />
      ))}
      {cues.map((role) => (
        <Thread
          key={role.name}
          name={cueWords(role, song, playback)}
          dye={role.kind === 'guide' ? 'saffron' : 'iron'}
          role={role}
          song={song}
          on={on}
          part={closer.part}
          tempo={item.tempo}
        />
      ))}
      <ZoomButtons {...closer} rate={song.rate} />
    </div>
  );
}

function cueWords(role: PlaybackRole, song: Song, playback: Playback) {
  if (role.kind === 'click') return `${CUES.click}, ${song.click.sound}, ${song.click.subdivision}`;
  if (role.kind === 'pilot')
    return `${CUES.pilot} ${playback.pilot.hz / 1000} kHz${playback.pilot.on ? '' : ', off'}`;
  return role.kind === 'parts' ? role.name : CUES[role.kind];
}

interface SectionsProps {
  song: Song;
  item: PlaybackItem;
  on: boolean;
  part: Part | null;
}

/** A press on a section: it begins there, or goes there at the next bar. */
function Sections({ song, item, on, part: near }: SectionsProps) {
  const player = useLivePlayer();
  const going = on && ['playing', 'fading', 'stopping'].includes(player?.state ?? '');
  const now = on ? (player?.section ?? null) : null;
  const asked = on ? (player?.asked ?? null) : null;
  const after = song.parts.find((part) => part.key === player?.after)?.name;
  const go = async (section: number) => {
    if (going) return void press({ command: 'jump', section, at_next: 'bar' });
    if (on || (await press({ command: 'load', item: item.key }))) await press({ command: 'play', section });
  };
  const words = () => {
    if (!going) return '';
    if (asked?.kind === 'jump')
      return `goes to ${song.parts.find((part) => part.key === asked.section)?.name ?? 'another section'} at the next bar`;
    if (asked?.kind === 'stop') return 'stops at the end of this section';
    if (player?.around) return `repeating, pass ${(player.rounds ?? 1) + 1} next`;
    return after ? `then ${after}` : 'the last section';
  };
  return (
    <div className={own.line}>
      <div>
        <div className={own.sections}>
          {within(song.parts, near).map((part) => (
            <button
              key={part.key}
              type="button"
              data-dye={part.dye}
              className={cx(
                own.section,
                part.key === now && own.now,
                item.skips.includes(part.key) && own.skipped,
              )}
              style={{ flexGrow: Math.max(1, part.wide) }}
              title={`${part.name}, from bar ${part.bar}, ${part.bars} bars${going ? ': go there at the next bar' : ': play from here'}`}
              onClick={() => void go(part.key)}
            >
              {part.name}
              {(item.repeats[part.key] ?? 1) > 1 && ` ×${item.repeats[part.key]}`}
            </button>
          ))}
        </div>
        <p className={own.told} role="status">
          {words()}{' '}
          {(asked || player?.around) && going && (
            <button type="button" className={own.back} onClick={() => void press({ command: 'take.back' })}>
              cancel
            </button>
          )}
        </p>
      </div>
    </div>
  );
}

/** The sections that lie in what is looked at, each as wide as it does there. */
const within = (parts: Song['parts'], near: Part | null) =>
  parts
    .map((part) => ({
      ...part,
      wide: Math.min(part.to, near?.to ?? part.to) - Math.max(part.from, near?.from ?? part.from),
    }))
    .filter((part) => !near || part.wide > 0);

interface ThreadProps {
  name: string;
  dye: string;
  role: PlaybackRole | undefined;
  song: Song;
  on: boolean;
  part: Part | null;
  /** Percent: the picture is that of the song as it is. */
  tempo: number;
}

function Thread({ name, dye, role, song, on, part, tempo }: ThreadProps) {
  const stem = song.stems.find((one) => one.role === role?.name || one.role === name);
  const { from, to } = part ?? { from: 0, to: song.frames };
  const columns = useStem(song, stem?.id, COLUMNS, part && atTempo(part, tempo));
  const peaks = stem ? (columns.data?.columns ?? []) : [];
  const share = stem ? (Math.min(stem.frames, to) - from) / (to - from) : 0;
  const reached = useRef(0);
  const draw: Draw = (paint, width, height, colours) => {
    const position = on ? (playing()?.position ?? null) : null;
    if (position !== null) reached.current = position;
    const x = (sample: number) => ((sample - from) / (to - from)) * width;
    const head = on ? x(Math.max(0, reached.current)) : 0;
    const colour = role && role.outputs.length === 0 ? colours.rule : dyeOf(colours, dye);
    const middle = height / 2;
    paint.fillStyle = colour;
    paint.fillRect(0, middle - 0.5, width, 1);
    const full = width * share;
    const step = full / Math.max(1, peaks.length);
    peaks.forEach((peak, at) => {
      const tall = ((peak - FLOOR) / (255 - FLOOR)) * height;
      if (tall <= 1) return;
      paint.globalAlpha = at * step < head || !on ? 1 : 0.45;
      paint.fillRect(at * step, middle - tall / 2, Math.max(0.8, step * 0.7), tall);
    });
    if (!stem && role?.kind === 'click') {
      for (const [sample, kind] of song.strokes) {
        const at = x(sample ?? 0);
        const tall = [6, 14, 24][kind ?? 0] ?? 6;
        paint.globalAlpha = at < head || !on ? 1 : 0.45;
        if (at >= 0 && at <= width) paint.fillRect(at, middle - tall / 2, 1, tall);
      }
    }
    if (!stem && role?.kind === 'pilot') {
      paint.globalAlpha = 0.6;
      for (let at = 0; at < width; at += 3) paint.fillRect(at, middle - 4, 1.5, 8);
    }
    paint.globalAlpha = 1;
    if (on && head > 0 && head <= width) {
      paint.fillStyle = colours.text;
      paint.fillRect(head - 1, 0, 2, height);
    }
  };
  const look = (width: number) =>
    on ? `${Math.round((((playing()?.position ?? reached.current) - from) / (to - from)) * width)}` : '';
  return (
    <div className={own.thread} data-dye={dye}>
      <div>
        <span className={own.name}>{name}</span>
        <canvas
          className={own.canvas}
          ref={useCanvas(draw, { look })}
          role="img"
          aria-label={`${name} over the song`}
        />
      </div>
      <End role={role} />
    </div>
  );
}

const sentence = (role: PlaybackRole) => {
  const heard = role.heard_by.map((one) => one.name).join(', ');
  const pa = role.heard_by.some((one) => one.kind === 'area' || one.kind === 'broadcast');
  if (role.kind === 'pilot') return heard ? `heard by ${heard}` : 'changeover only ✓';
  if (role.kind === 'parts') return heard || 'heard by nobody';
  return `${heard || 'heard by nobody'}${pa ? '' : ' · never PA ✓'}`;
};

/** Where a thread ends: its outputs, what they are cabled to, who hears it, and how loud it is now. */
function End({ role }: { role: PlaybackRole | undefined }) {
  const outputs = role?.outputs ?? [];
  const draw: Draw = (paint, width, height, colours) => {
    const level = Math.max(-144, ...outputs.map(outputLevel));
    paint.fillStyle = colours.text;
    paint.font = '600 14px "Atkinson Hyperlegible Next"';
    paint.textAlign = 'right';
    paint.fillText(decibels(level), width, height / 2 + 5);
  };
  const canvas = useCanvas(draw, {
    look: () => decibels(Math.max(-144, ...outputs.map(outputLevel))),
    slow: true,
  });
  if (!role || outputs.length === 0)
    return (
      <div className={own.end}>
        <span className={cx(own.knot, own.loose)} />
        <div>
          <span className={styles.inLook}>no output</span>
          <span className={styles.quiet}>nobody hears it</span>
        </div>
        <span />
      </div>
    );
  return (
    <div className={own.end}>
      <span className={own.knot} />
      <div>
        <span>
          <b>{role.kind === 'parts' ? role.name : CUES[role.kind]}</b> →{' '}
          {role.kind === 'pilot'
            ? `output ${outputs.join(', ')}`
            : role.goes.map((one) => one.label).join(', ')}
          {outputs.length === 1 && role.kind === 'parts' && <span className={styles.quiet}> · mono</span>}
        </span>
        <span className={styles.quiet}>{sentence(role)}</span>
      </div>
      <canvas className={own.level} ref={canvas} role="img" aria-label={`Level of ${role.name}`} />
    </div>
  );
}
