import { asking } from "./session";

/** Seconds after which the server lets a request be sent again; none where it does not. */
function again(response: Response): number | null {
  if (response.status !== 429 && response.status !== 503) return null;
  const seconds = Number(response.headers.get("Retry-After"));
  return seconds > 0 && seconds <= LONGEST ? seconds : null;
}

const LONGEST = 30;
const TRIES = 40;

function pause(seconds: number, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, seconds * 1000);
    signal.addEventListener("abort", () => {
      clearTimeout(timer);
      reject(signal.reason as Error);
    });
  });
}

/**
 * Sends a request, and again where the server is busy and says when; nothing was done then. Ends
 * when nobody waits for the answer any more.
 */
export async function patientFetch(request: Request): Promise<Response> {
  const heard = asking();
  for (let left = TRIES; ; left -= 1) {
    const response = await fetch(request.clone());
    const seconds = again(response);
    if (seconds === null || left === 0) return heard(response);
    await pause(seconds, request.signal);
  }
}
