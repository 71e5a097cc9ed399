import { api } from "../../api/client";
import { measuresOf, type Usual } from "./usual";

/** Begins a design from a picture that is like others: of their recipe, with their measures and filaments. */
export async function startedAs(file: File, usual: Usual): Promise<string> {
  const made = await api.upload(file, { recipe: usual.recipe });
  await alike(made.id, made.version, usual);
  return made.id;
}

/** Gives a new design the measures and filaments of the others. */
async function alike(id: string, version: number, usual: Usual) {
  const after = await api.edit(id, version, [measuresOf(usual)]);
  const tiers = after.result.tiers.filter((t) => !t.is_cut);
  const filaments = usual.tiers.filter((u) =>
    tiers.some((t) => t.key === u.key && t.filament !== u.filament),
  );
  if (filaments.length > 0)
    await api.edit(
      id,
      after.version,
      filaments.map((t) => ({ kind: "set-filament", key: t.key, filament: t.filament })),
    );
}
