import createClient, { type Middleware } from "openapi-fetch";
import { patientFetch } from "./patient";
import type { paths } from "./schema";
import type { FieldError } from "./types";
import { t } from "../texts";

function cookie(name: string): string {
  const found = document.cookie.split("; ").find((pair) => pair.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: "/", fetch: patientFetch });
client.use(withToken);

/** What the server said no with, as sentences at their fields. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly errors: FieldError[],
    /** What is kept instead, where a save was refused for being older. */
    readonly kept?: unknown,
  ) {
    super(
      errors.map((error) => error.message).join(" ") ||
        t("The server answered {status}.", { status }),
    );
  }
}

interface Result<T> {
  data?: T | undefined;
  error?: unknown;
  response: Response;
}

/** What the server said no with. */
export function refused(response: Response, error: unknown): Refused {
  const said = error as { errors?: FieldError[]; kept?: unknown } | undefined;
  return new Refused(response.status, said?.errors ?? [], said?.kept);
}

/** Every thing of a list that comes in pages. */
export async function everyPage<T>(
  page: (start: number) => Promise<{ items: T[]; total: number }>,
): Promise<T[]> {
  const all: T[] = [];
  for (;;) {
    const { items, total } = await page(all.length);
    all.push(...items);
    if (!items.length || all.length >= total) return all;
  }
}

/** The data of a call, or a `Refused` with the server's own sentences. */
export async function ask<T>(call: Promise<Result<T>>): Promise<T> {
  const { data, error, response } = await call;
  if (data !== undefined) return data;
  if (response.status === 204) return undefined as T;
  throw refused(response, error);
}
