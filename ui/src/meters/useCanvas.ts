import { type RefObject, useEffect, useRef } from 'react';
import { useScheme } from '../look/theme';
import { type Colours, schemes } from '../look/tokens';
import { eachFrame, touch } from './clock';

export type Draw = (paint: CanvasRenderingContext2D, width: number, height: number, colours: Colours) => void;

/** A canvas that is redrawn each frame at the screen's own resolution. `draw` may change without restarting it. */
export function useCanvas(draw: Draw): RefObject<HTMLCanvasElement | null> {
  const canvas = useRef<HTMLCanvasElement>(null);
  const latest = useRef(draw);
  const { scheme } = useScheme();
  useEffect(() => {
    latest.current = draw;
    touch();
  });

  useEffect(() => {
    const element = canvas.current;
    const paint = element?.getContext('2d');
    if (!element || !paint) return;
    return eachFrame(() => {
      const ratio = window.devicePixelRatio || 1;
      const { clientWidth: width, clientHeight: height } = element;
      if (width === 0) return;
      if (element.width !== Math.round(width * ratio) || element.height !== Math.round(height * ratio)) {
        element.width = Math.round(width * ratio);
        element.height = Math.round(height * ratio);
      }
      paint.setTransform(ratio, 0, 0, ratio, 0, 0);
      paint.clearRect(0, 0, width, height);
      latest.current(paint, width, height, schemes[scheme]);
    });
  }, [scheme]);
  return canvas;
}
