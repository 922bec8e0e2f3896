import { useQuery } from "@tanstack/react-query";
import { ask, client, everyPage } from "./client";

export const undeleteCase = (id: string) =>
  ask(client.POST("/api/v1/cases/{case_id}/undelete", { params: { path: { case_id: id } } }));

export function useCaseBin() {
  return useQuery({
    queryKey: ["bin", "cases"],
    queryFn: () =>
      everyPage((start) => ask(client.GET("/api/v1/cases/bin", { params: { query: { start } } }))),
    staleTime: 0,
  });
}
