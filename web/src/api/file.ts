import { patientFetch } from "./patient";
import { refused } from "./client";

/** The name a server gives to a file. */
function nameOf(response: Response): string {
  const said = response.headers.get("Content-Disposition") ?? "";
  return /filename="([^"]*)"/.exec(said)?.[1] ?? "zephyrant";
}

function keep(content: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  // Whoever writes the file reads it after the click.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** Takes a file out of the desk; throws `Refused` where the server says no. */
export async function takeFile(address: string, signal: AbortSignal): Promise<void> {
  const request = new Request(new URL(address, location.origin), { signal });
  const response = await patientFetch(request);
  if (!response.ok) throw refused(response, await response.json().catch(() => undefined));
  keep(await response.blob(), nameOf(response));
}
