import type { StageSocket } from '../../api/client';
import { CLIP_DB, levelOf, loudest } from '../../meters/levels';
import { type Draw, useCanvas } from '../../meters/useCanvas';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './stage.module.css';

interface Props {
  socket: StageSocket;
  noisy: boolean;
  tick: () => void;
}

/** One socket: its mark, who goes there, how, and the light that says a signal arrives. The whole row is the tick. */
export function SocketRow({ socket, noisy, tick }: Props) {
  const words = [socket.mic, socket.stand].filter((one) => one && one !== 'none').join(' · ');
  return (
    <button
      type="button"
      className={cx(own.socketRow, socket.plugged && own.done, noisy && own.noisy)}
      data-dye={socket.dye}
      aria-pressed={socket.plugged !== null}
      onClick={tick}
    >
      <span className={cx(own.socketMark, styles.figure)}>{socket.label}</span>
      <span className={own.socketWords}>
        <strong>{socket.name}</strong>
        <span className={styles.quiet}>
          {words}
          {socket.phantom && <b className={own.socketPhantom}>48 V</b>}
        </span>
        {socket.plugged && <span className={styles.quiet}>plugged by {socket.plugged.who}</span>}
      </span>
      <Light socket={socket} />
      <span className={own.socketTick} aria-hidden="true">
        {socket.plugged ? '✓' : ''}
      </span>
    </button>
  );
}

// What is above this is a signal, not the room.
const SIGNAL_DB = -60;

function Light({ socket }: { socket: StageSocket }) {
  const points = { of: socket.meter, at: socket.at };
  const draw: Draw = (paint, width, height, colours) => {
    const hold = loudest(points, (one) => levelOf(one).hold);
    paint.beginPath();
    paint.arc(width / 2, height / 2, width / 2 - 2, 0, Math.PI * 2);
    paint.fillStyle = hold >= CLIP_DB ? colours.meterOver : colours.meterLow;
    if (hold > SIGNAL_DB) paint.fill();
    paint.strokeStyle = colours.quiet;
    paint.lineWidth = 1.5;
    paint.stroke();
  };
  const look = () => {
    const hold = loudest(points, (one) => levelOf(one).hold);
    return `${hold > SIGNAL_DB} ${hold >= CLIP_DB}`;
  };
  return (
    <canvas className={own.socketLight} ref={useCanvas(draw, { look })} role="img" aria-label="signal here" />
  );
}
