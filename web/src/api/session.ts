/** Told on the window when the server no longer knows who is asking. */
export const SIGNED_OUT = "zephyrant-signed-out";
/** Told on the window when someone has signed in again. */
export const SIGNED_IN = "zephyrant-signed-in";

let sessions = 0;
addEventListener(SIGNED_IN, () => (sessions += 1));

/** Begins a question; what it gives hears its answer, and tells where the session ended. An answer
 *  to what was asked before someone signed in says nothing of the session since. */
export function asking(): (response: Response) => Response {
  const asked = sessions;
  return (response) => {
    if (response.status === 401 && asked === sessions) dispatchEvent(new Event(SIGNED_OUT));
    return response;
  };
}
