import { useEffect, useState, type RefObject } from 'react';

/** The width and height of an element's inside, as it changes. */
export function useRoom(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [room, setRoom] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const { current } = element;
    if (!current) return;
    const measure = () => setRoom({ width: current.clientWidth, height: current.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(current);
    return () => observer.disconnect();
  }, [element]);
  return room;
}
