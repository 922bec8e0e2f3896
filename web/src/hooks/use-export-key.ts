import { openList } from "./focus";
import { useKeys } from "./use-keys";
import { t } from "../texts";

const KEYS = [{ key: "f", run: () => openList(`[aria-haspopup][aria-label="${t("Export")}"]`) }];

/** Where a page has files to export, a letter opens their list. */
export function useExportKey(): void {
  useKeys(KEYS);
}
