import { useEffect, useRef, useState } from "react";

/** The width of an element, kept up to date. */
export function useWidth<T extends HTMLElement>() {
  const element = useRef<T>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 0));
    observer.observe(element.current);
    return () => observer.disconnect();
  }, []);
  return [element, width] as const;
}

/** Whether what is in an element is wider than it. */
export function useScrolls<T extends HTMLElement>() {
  const element = useRef<T>(null);
  const [scrolls, setScrolls] = useState(false);
  useEffect(() => {
    const { current } = element;
    if (!current) return;
    const look = () => setScrolls(current.scrollWidth > current.clientWidth);
    const observer = new ResizeObserver(look);
    observer.observe(current);
    if (current.firstElementChild) observer.observe(current.firstElementChild);
    return () => observer.disconnect();
  }, []);
  return [element, scrolls] as const;
}
