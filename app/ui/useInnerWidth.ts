import { useLayoutEffect, useState, type RefObject } from 'react';

/**
 * How wide the inside of a box is, in pixels; 0 before it is on the page. It is there before the browser draws for the
 * first time, so that nothing moves under a hand that is already there.
 */
export function useInnerWidth(box: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = box.current!;
    const measure = () => {
      const { paddingLeft, paddingRight } = getComputedStyle(element);
      setWidth(element.clientWidth - (parseFloat(paddingLeft) || 0) - (parseFloat(paddingRight) || 0));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [box]);
  return width;
}
