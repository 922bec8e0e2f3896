import { useEffect, useState, type ComponentType } from "react";
import { Button } from "./button";
import { Wrong } from "./wrong";
import { rich, t } from "../texts";

interface Later<P> {
  (props: P): React.ReactNode;
  /** Loads it before it is shown. */
  load: () => void;
}

/** A part of the page that is loaded when it is first shown. Where it cannot be, the page around it
 *  stays, and it can be tried again. */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): Later<P> {
  let loaded: ComponentType<P> | undefined;
  const loading = async () => (loaded ??= await load());
  const Shown: Later<P> = (props: P) => {
    // The compiler would look for `loaded` outside.
    "use no memo";
    const [Part, setPart] = useState(() => loaded);
    const [failed, setFailed] = useState(false);
    useEffect(() => {
      if (Part || failed) return;
      loading().then(
        (part) => setPart(() => part),
        () => setFailed(true),
      );
    }, [Part, failed]);
    if (Part) return <Part {...props} />;
    if (!failed) return null;
    return (
      <Wrong>
        {rich("This part of the page could not be loaded. {again}", {
          again: (
            <Button look="link" onClick={() => setFailed(false)}>
              {t("Try again")}
            </Button>
          ),
        })}
      </Wrong>
    );
  };
  // What fails is said once it is shown.
  Shown.load = () => void loading().catch(() => undefined);
  return Shown;
}
