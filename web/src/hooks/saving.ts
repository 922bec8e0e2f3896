import { Refused } from "../api/client";
import { draftOf, dropDraft, keepDraft } from "./draft";
import { tellElsewhere } from "./elsewhere";
import { saying, waitingFor, type Keeper, type Keeping, type Opened } from "./keeper";
import { untilDone } from "./on-the-way";
import { same } from "./same";
import { Told } from "./told";

const PAUSE = 700;
const RETRY = 4_000;

/**
 * Keeps content saved: a moment after the last change, again and again while the server cannot be
 * reached, and at once when it is left. One save at a time, each from the version the last one
 * gave. Until the server has acknowledged it, every change waits in this browser.
 */
export class Saving<C, K extends Opened> {
  /** How it stands, told to who listens. */
  readonly keeping: Told<Keeping<C, K>>;
  private version: number;
  private saved: C;
  private latest: C;
  private readonly begun: C;
  private busy: Promise<void> | null = null;
  private stuck: boolean;
  private left = false;
  /** What stood as fields were left, to be saved in that order. */
  private leftOn: C[] = [];
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly keeper: Keeper<C, K>,
    content: C,
  ) {
    const { opened, username, mayEdit, contentOf } = keeper;
    const draft = waitingFor(keeper);
    this.version = opened.version;
    this.latest = this.begun = content;
    this.saved = mayEdit && draftOf(username, opened.id) ? contentOf(opened) : content;
    let state: Keeping<C, K> = { state: "saved", at: new Date(opened.changed_at) };
    if (!mayEdit) state = { state: "reading" };
    else if (draft && draft.version !== opened.version)
      state = { state: "conflict", kept: opened, base: contentOf(opened) };
    this.keeping = new Told<Keeping<C, K>>(state);
    this.stuck = state.state !== "saved";
  }

  /** What stands on the page now. */
  readonly change = (content: C): void => {
    if (this.latest !== content) {
      this.latest = content;
      if (this.keeper.mayEdit) this.keep();
    }
    this.soon(PAUSE);
  };

  /** Saves at once what waits, such as when the network is back. */
  readonly now = (): void => void this.save(false);

  /** The page is hidden: what waits is sent so that it arrives all the same. */
  readonly hidden = (): void => void this.save(true);

  /** Someone is at the page again. */
  readonly come = (): void => {
    this.left = false;
  };

  /** The page is left: what waits is saved, and what was typed meanwhile. */
  readonly leave = (): void => {
    clearTimeout(this.timer);
    this.left = true;
    void this.save(true);
  };

  /** Takes the version someone else saved for the one to go on from. */
  readonly goOnFrom = (kept: K): void => {
    this.version = kept.version;
    this.stuck = false;
    this.keep();
    this.soon(PAUSE);
  };

  /** Saves at once what waits; gives the version then kept, or null where it could not be. */
  readonly flush = async (): Promise<number | null> => {
    do {
      await this.busy;
      await this.save(false);
    } while (this.busy ?? (this.waits() && this.keeping.current().state === "saved"));
    return this.latest === this.saved ? this.version : null;
  };

  /** A field was left that had been typed in: what stands is an answer to keep. */
  readonly leaveField = (): void => {
    if (this.stuck) return;
    this.leftOn.push(this.latest);
    void this.save(false);
  };

  /** What another window saved, where nothing waits here: it stands here from now on. */
  readonly fromElsewhere = async (): Promise<C | null> => {
    await this.busy;
    if (this.stuck || this.waits()) return null;
    const stood = this.latest;
    try {
      const kept = await this.keeper.ask();
      if (this.latest !== stood || kept.version <= this.version) return null;
      this.version = kept.version;
      this.latest = this.saved = this.keeper.contentOf(kept);
      this.keeping.tell({ state: "saved", at: new Date(kept.changed_at) });
      return this.latest;
    } catch {
      return null; // Whoever saves here next hears of it.
    }
  };

  private keep(): void {
    const { username, opened } = this.keeper;
    keepDraft(username, opened.id, { content: this.latest, version: this.version });
  }

  private waits(): boolean {
    return this.leftOn.length > 0 || !same(this.latest, this.saved);
  }

  /** Nothing waits in this browser. */
  private isSaved(): void {
    this.saved = this.latest;
    dropDraft(this.keeper.username, this.keeper.opened.id, this.latest);
  }

  private soon(pause: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(false), pause);
  }

  private async save(leaving: boolean): Promise<void> {
    if (this.busy || this.stuck) return;
    if (!this.waits()) this.isSaved();
    else await this.saveAll(leaving);
  }

  private async saveAll(leaving: boolean): Promise<void> {
    const { id } = this.keeper.opened;
    const all = async () => {
      let kept = await this.once(leaving);
      // Once the page has been left nothing else comes to save what was typed meanwhile.
      while (kept && (this.leftOn.length > 0 || (this.left && this.latest !== this.saved)))
        kept = await this.once(this.left);
    };
    this.busy = all();
    await untilDone(id, this.busy);
    this.busy = null;
  }

  /** Whether it was kept. */
  private async once(leaving: boolean): Promise<boolean> {
    const left = this.leftOn.length > 0;
    const sent = this.leftOn.shift() ?? this.latest;
    this.keeping.tell({ state: "saving" });
    try {
      return this.isKept(sent, await this.keeper.send(sent, this.version, { leaving, left }));
    } catch (error) {
      if (error instanceof Refused && error.kept) return this.refused(sent, error.kept as K);
      if (left) this.leftOn.unshift(sent);
      this.keeping.tell({ state: "waiting", why: saying(error) });
      if (!this.left) this.soon(RETRY);
      return false;
    }
  }

  private isKept(sent: C, kept: K): boolean {
    const { opened } = this.keeper;
    const before = this.version;
    this.version = kept.version;
    this.saved = sent;
    if (this.latest === sent) this.isSaved();
    else this.keep();
    this.keeping.tell({ state: "saved", at: new Date(kept.changed_at) });
    if (kept.version > before) tellElsewhere({ id: opened.id, version: kept.version });
    if (this.latest !== sent && !this.left) this.soon(PAUSE);
    return true;
  }

  /** A save refused for being older than what is kept. */
  private refused(sent: C, kept: K): boolean {
    const theirs = this.keeper.contentOf(kept);
    // Saved from another window, or by a save whose answer was lost: no conflict.
    if (same(theirs, sent)) return this.isKept(sent, kept);
    if (same(theirs, this.begun)) {
      // Another window saved what this one began with: what has changed here stands on it.
      this.version = kept.version;
      this.soon(PAUSE);
      return false;
    }
    this.stuck = true;
    this.leftOn = [];
    this.keeping.tell({ state: "conflict", kept, base: this.saved });
    return false;
  }
}
