import { useEffect, useRef, useState } from "react";

/** How far down the page an element begins, kept up to date without a layout asked for: whatever
 *  moves it changes the height of the page. */
export function useTop<T extends HTMLElement>() {
  const element = useRef<T>(null);
  const [top, setTop] = useState(0);
  useEffect(() => {
    const look = () => {
      const { y } = element.current?.getBoundingClientRect() ?? { y: -scrollY };
      setTop(Math.round(y + scrollY));
    };
    const observer = new ResizeObserver(look);
    observer.observe(document.body);
    return () => observer.disconnect();
  }, []);
  return [element, top] as const;
}
