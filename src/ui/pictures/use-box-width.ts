import { useEffect, useRef, useState, type RefObject } from "react";

/** The width in pixels of a box on the page, `initial` until it is there: so that type in a drawing keeps its size. */
export function useBoxWidth(initial: number): [RefObject<HTMLDivElement | null>, number] {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(initial);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(Math.max(240, Math.floor(entry!.contentRect.width))));
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, []);
  return [box, width];
}
