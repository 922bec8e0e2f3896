import { useEffect, useState, type ComponentType } from "react";
import { Wrong } from "./wrong";

/** A part of the page that is loaded when it is first shown. Where it cannot be, the page around it
 *  stays, and it is tried again the next time. */
export function later<P extends object>(
  load: () => Promise<ComponentType<P>>,
): (props: P) => React.ReactNode {
  let loaded: ComponentType<P> | undefined;
  return function Later(props: P) {
    // The compiler would look for `loaded` outside.
    "use no memo";
    const [Part, setPart] = useState(() => loaded);
    const [failed, setFailed] = useState(false);
    useEffect(() => {
      if (Part) return;
      load().then(
        (part) => {
          loaded = part;
          setPart(() => part);
        },
        () => setFailed(true),
      );
    }, [Part]);
    if (Part) return <Part {...props} />;
    return failed && <Wrong>This part of the page could not be loaded. Try it again.</Wrong>;
  };
}
