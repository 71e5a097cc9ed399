import { useQuery } from "@tanstack/react-query";
import { api } from "./client";
import type { Filament } from "./generated/Filament";

export const WORKSHOP = ["workshop"];

/** The printers and filaments that all designs share; one answer serves every place that shows them. */
export function useWorkshop() {
  return useQuery({ queryKey: WORKSHOP, queryFn: api.workshop }).data;
}

const NONE: readonly Filament[] = [];

export function useFilaments(): readonly Filament[] {
  return useWorkshop()?.workshop.filaments ?? NONE;
}
