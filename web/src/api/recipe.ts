import type { RecipeKind } from "./generated/RecipeKind";

/** Whether it cuts cookies, whose size counts then rather than the drawing's. */
export const isCutter = (recipe: RecipeKind): boolean => recipe === "cutter" || recipe === "cutter-stamp";
