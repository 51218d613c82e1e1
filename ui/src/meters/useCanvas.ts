import { type RefObject, useEffect, useRef } from 'react';
import { useScheme } from '../look/theme';
import { type Colours, schemes } from '../look/tokens';
import { eachFrame } from './clock';

export type Draw = (paint: CanvasRenderingContext2D, width: number, height: number, colours: Colours) => void;

interface Options {
  /** What would be drawn, in a few words or figures: while it stays the same, nothing is drawn. Without it, each frame is. */
  look?: (width: number) => string;
  /** Drawn some three times a second only. */
  slow?: boolean;
}

/** A canvas at the screen's own resolution that is redrawn while levels arrive, as far as it can be seen. `draw` may change without
 *  restarting it, and shows at once. */
export function useCanvas(
  draw: Draw,
  { look, slow = false }: Options = {},
): RefObject<HTMLCanvasElement | null> {
  const canvas = useRef<HTMLCanvasElement>(null);
  const latest = useRef({ draw, look });
  const again = useRef<(() => void) | null>(null);
  const { scheme } = useScheme();
  useEffect(() => {
    latest.current = { draw, look };
    again.current?.();
  });

  useEffect(() => {
    const element = canvas.current;
    const paint = element?.getContext('2d');
    if (!element || !paint) return;
    let seen = true;
    let shown: string | null = null;
    const render = (forced: boolean) => {
      if (!seen && !forced) return;
      const { clientWidth: width, clientHeight: height } = element;
      if (width === 0) return;
      const ratio = window.devicePixelRatio || 1;
      const [wide, tall] = [Math.round(width * ratio), Math.round(height * ratio)];
      const now = latest.current.look ? `${wide} ${tall} ${latest.current.look(width)}` : null;
      if (!forced && now !== null && now === shown) return;
      shown = now;
      if (element.width !== wide || element.height !== tall) {
        element.width = wide;
        element.height = tall;
      }
      paint.setTransform(ratio, 0, 0, ratio, 0, 0);
      paint.clearRect(0, 0, width, height);
      latest.current.draw(paint, width, height, schemes[scheme]);
    };
    again.current = () => render(true);
    again.current();
    const end = eachFrame(() => render(false), slow);
    const sight = inSight(element, (visible) => {
      seen = visible;
      if (visible) render(true);
    });
    // What was written before the font had come is written again.
    void fonts()?.ready.then(() => again.current?.());
    return () => {
      end();
      sight?.disconnect();
      again.current = null;
    };
  }, [scheme, slow]);
  return canvas;
}

const fonts = () => ('fonts' in document ? document.fonts : null);

/** Tells when an element scrolls into sight or out of it. */
function inSight(element: Element, tell: (visible: boolean) => void) {
  if (typeof IntersectionObserver === 'undefined') return null;
  const observer = new IntersectionObserver((entries) => tell(entries.at(-1)?.isIntersecting ?? true));
  observer.observe(element);
  return observer;
}
