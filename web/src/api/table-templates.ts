import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { ask, client } from "./client";
import type { TemplateAsked, TemplateFitted } from "./types";

const TEMPLATES = ["table-templates"];
const of = (template_id: string) => ({ params: { path: { template_id } } });

/** Every template beside a table, those that fit best first. */
export const useTemplates = (table_id: string) =>
  useQuery({
    queryKey: [...TEMPLATES, table_id],
    queryFn: async () => {
      const path = { params: { path: { table_id } } };
      return (await ask(client.GET("/api/v1/tables/{table_id}/templates", path))).items;
    },
    staleTime: 0,
  });

function useChange<Asked, Told>(mutationFn: (asked: Asked) => Promise<Told>) {
  const queries = useQueryClient();
  const onSuccess = () => queries.invalidateQueries({ queryKey: TEMPLATES });
  return useMutation({ mutationFn, onSuccess });
}

/** How a table is matched, kept by a name. */
export const useKeepTemplate = (table_id: string) =>
  useChange((body: TemplateAsked) =>
    ask(
      client.POST("/api/v1/tables/{table_id}/templates", { params: { path: { table_id } }, body }),
    ),
  );

export const useShareTemplate = () =>
  useChange(({ id, name, shared }: Pick<TemplateFitted, "id" | "name" | "shared">) =>
    ask(client.PUT("/api/v1/table-templates/{template_id}", { ...of(id), body: { name, shared } })),
  );

export const useDeleteTemplate = () =>
  useChange((id: string) => ask(client.DELETE("/api/v1/table-templates/{template_id}", of(id))));
