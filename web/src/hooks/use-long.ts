import { useEffect, useState } from "react";

/** Whether something has been so for longer than that. */
export function useLong(is: boolean, milliseconds: number): boolean {
  const [long, setLong] = useState(false);
  useEffect(() => {
    if (!is) return;
    const timer = setTimeout(() => setLong(true), milliseconds);
    return () => {
      clearTimeout(timer);
      setLong(false);
    };
  }, [is, milliseconds]);
  return is && long;
}
