import { keepPreviousData } from "@tanstack/react-query";

/** How an answer is kept: each question is one of its own, so a late answer never stands under a
 *  later question. */
export const ASKED = { placeholderData: keepPreviousData, staleTime: Infinity, gcTime: 60_000 };
