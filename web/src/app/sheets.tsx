import { BeginsSheet } from "./begins";
import { FilesSheet } from "./files";
import { KeysSheet } from "./keys";
import { PasswordSheet } from "./password";
import { TokensSheet } from "./tokens";

const SHEETS = {
  keys: KeysSheet,
  begins: BeginsSheet,
  files: FilesSheet,
  password: PasswordSheet,
  tokens: TokensSheet,
};
export type Which = keyof typeof SHEETS;

/** One of the sheets about the analyst. */
export function Sheets({ which, onClose }: { which: Which; onClose: () => void }) {
  const Open = SHEETS[which];
  return <Open open onOpen={onClose} />;
}
