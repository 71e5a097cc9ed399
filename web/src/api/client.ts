import { useActivity } from "../state/activity";
import { AWAY, untilBack } from "../state/away";
import { useInterface } from "../state/interface";
import { said } from "../ui/numbers";
import { takenAhead } from "./ahead";
import type { BinView } from "./generated/BinView";
import type { BroughtView } from "./generated/BroughtView";
import type { Change } from "./generated/Change";
import type { Credit } from "./generated/Credit";
import type { CupView } from "./generated/CupView";
import type { DesignView } from "./generated/DesignView";
import type { DrawnLine } from "./generated/DrawnLine";
import type { Edit } from "./generated/Edit";
import type { FilesWanted } from "./generated/FilesWanted";
import type { InUseView } from "./generated/InUseView";
import type { LabelChange } from "./generated/LabelChange";
import type { LayerView } from "./generated/LayerView";
import type { MendsView } from "./generated/MendsView";
import type { PrintView } from "./generated/PrintView";
import type { PrintWish } from "./generated/PrintWish";
import type { Problem } from "./generated/Problem";
import type { RecipeView } from "./generated/RecipeView";
import type { ResultView } from "./generated/ResultView";
import type { SampleView } from "./generated/SampleView";
import type { SetMember } from "./generated/SetMember";
import type { ShelfItem } from "./generated/ShelfItem";
import type { SideView } from "./generated/SideView";
import type { SnapshotView } from "./generated/SnapshotView";
import type { StateView } from "./generated/StateView";
import type { StepView } from "./generated/StepView";
import type { Thinnest } from "./generated/Thinnest";
import type { Unit } from "./generated/Unit";
import type { Workshop } from "./generated/Workshop";
import type { WorkshopView } from "./generated/WorkshopView";
import { textsNow, whole } from "./texts";

/** Which cup stands on a coaster and where, mm; what is left out is the server's choice. */
export type CupAsked = Partial<Pick<CupView, "foot" | "right" | "up">>;

const asked = (what: Record<string, string | number>) =>
  new URLSearchParams(Object.entries(what).map(([name, value]) => [name, String(value)])).toString();

/** A refused request, with the server's problem document. */
export class ApiProblem extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

/** What a person reads of anything that was thrown. */
export function refusal(thrown: unknown): string {
  if (thrown instanceof ApiProblem) return said(thrown.problem.detail);
  return thrown instanceof Error ? thrown.message : String(thrown);
}

const unreachable: Problem = {
  title: "No answer",
  status: 0,
  detail: AWAY,
  code: "unreachable",
  value: null,
  limit: null,
  hint: "Start it again; what is shown as saved is on the disk.",
};

export async function request(path: string, { signal, ...init }: RequestInit): Promise<Response> {
  const job = crypto.getRandomValues(new Uint32Array(2)).join("-");
  const stop = new AbortController();
  const headers = new Headers(init.headers);
  headers.set("X-Kachel-Job", job);
  const { begin, end } = useActivity.getState();
  const giveUp = () => {
    // The server is told, too: an aborted request alone may sit in a buffer.
    void fetch(`/api/jobs/${job}`, { method: "DELETE" }).catch(() => undefined);
    stop.abort();
  };
  begin(job, giveUp);
  signal?.addEventListener("abort", giveUp, { once: true });
  try {
    const ahead = takenAhead(path, init);
    const response =
      (ahead && (await ahead)) ?? (await fetch(path, { ...init, headers, signal: stop.signal }));
    if (!response.ok) throw new ApiProblem(await problemOf(response));
    return response;
  } catch (e) {
    if (e instanceof ApiProblem) throw e;
    if (stop.signal.aborted) {
      throw new ApiProblem({
        ...unreachable,
        title: "Stopped",
        code: "stopped",
        detail: "Stopped",
        hint: "The last good result is still shown.",
      });
    }
    void untilBack();
    throw new ApiProblem(unreachable);
  } finally {
    signal?.removeEventListener("abort", giveUp);
    end(job);
  }
}

async function problemOf(response: Response): Promise<Problem> {
  const type = response.headers.get("content-type") ?? "";
  if (type.includes("problem+json")) return (await response.json()) as Problem;
  return { ...unreachable, status: response.status, detail: `The server answered ${response.status}` };
}

export async function json<T>(path: string, init: RequestInit = {}): Promise<T> {
  return (await (await request(path, init)).json()) as T;
}

/** A part of something that may be another thing by now: the server then has nothing to answer. */
export async function jsonOf<T>(path: string, init: RequestInit = {}): Promise<T> {
  const response = await request(path, init);
  if (response.status === 204) throw new Error("It has changed meanwhile");
  return (await response.json()) as T;
}

/** The same of what is mostly outlines, as designs and beds are: those that are here already are left out of the answer. */
export async function lean<T>(path: string, init: RequestInit = {}): Promise<T> {
  const had = textsNow();
  const headers = new Headers(init.headers);
  headers.set("X-Kachel-Has", [...had.keys()].join(","));
  const response = await request(path, { ...init, headers });
  const answer = await response.json();
  return response.headers.has("X-Kachel-Texts") ? whole<T>(answer, had) : (answer as T);
}

export function post(body?: unknown, version?: number): RequestInit {
  const headers: Record<string, string> = {};
  if (body !== undefined) headers["Content-Type"] = "application/json";
  if (version !== undefined) headers["If-Match"] = `"${version}"`;
  return { method: "POST", headers, ...(body === undefined ? {} : { body: JSON.stringify(body) }) };
}

export function put(body: unknown, version?: number): RequestInit {
  return { ...post(body, version), method: "PUT" };
}

function formOf(file: File): FormData {
  const form = new FormData();
  form.append("picture", file, file.name || "pasted.png");
  return form;
}

/** How far a design is computed: to the outline, to the tiers, to the meshes of these, or to the end. Sooner is quicker. */
export type Until = "outline" | "tiers" | "shown" | "all";

/** The state that another is laid beside: the present one where neither is named. */
export type Beside = { step?: string; kept?: string };

/** How the page wants to see results. */
function look(until: Until = "all"): string {
  const { section, turned, isSectionPut } = useInterface.getState();
  const wishes = [
    ...(isSectionPut ? [`section=${section}`] : []),
    ...(turned === 0 ? [] : [`turned=${turned}`]),
    ...(until === "all" ? [] : [`until=${until}`]),
  ];
  return wishes.length === 0 ? "" : `?${wishes.join("&")}`;
}

export const wishOf = ({ quality, infill }: PrintWish) =>
  `?quality=${quality}${infill === null ? "" : `&infill=${infill}`}`;

/** What the server can be asked. */
export const api = {
  shelf: () => json<ShelfItem[]>("/api/designs"),
  samples: () => json<SampleView[]>("/api/samples"),
  design: (id: string) => lean<DesignView>(`/api/designs/${id}${look()}`),
  /** A new design, of the usual recipe or of another, with its longest side at most as long as is typed. */
  upload: (file: File, as: { recipe?: string; longest?: string; house?: string } = {}) =>
    lean<DesignView>(`/api/designs?${asked(as)}`, { method: "POST", body: formOf(file) }),
  fromSample: (id: string) => lean<DesignView>(`/api/samples/${id}`, post()),
  edit: (id: string, version: number, edits: Edit[]) =>
    lean<DesignView>(`/api/designs/${id}/edits${look()}`, post({ edits }, version)),
  /** Another picture; the credit goes along, or is emptied because it was the old one's. */
  replace: (id: string, version: number, file: File, credit: "keep" | "clear") =>
    lean<DesignView>(`/api/designs/${id}/picture?credit=${credit}`, {
      method: "PUT",
      body: formOf(file),
      headers: { "If-Match": `"${version}"` },
    }),
  /** What edits would give. */
  preview: (id: string, edits: Edit[], until: Until, signal: AbortSignal | null = null) =>
    lean<ResultView>(`/api/designs/${id}/preview${look(until)}`, { ...post({ edits }), signal }),
  undo: (id: string, version: number) =>
    lean<DesignView>(`/api/designs/${id}/undo${look()}`, post(undefined, version)),
  redo: (id: string, version: number) =>
    lean<DesignView>(`/api/designs/${id}/redo${look()}`, post(undefined, version)),
  duplicate: (id: string) => json<ShelfItem>(`/api/designs/${id}/duplicate`, post()),
  remove: (id: string) => request(`/api/designs/${id}`, { method: "DELETE" }),
  restore: (id: string) => json<ShelfItem>(`/api/designs/${id}/restore`, post()),
  /** Puts what was taken home on this shelf, beside what is there. */
  bringShelf: (file: File) => json<BroughtView>("/api/shelf/home", { method: "POST", body: file }),
  bin: () => json<BinView>("/api/bin"),
  emptyBin: () => request("/api/bin", { method: "DELETE" }),
  /** Gives labels to designs, and takes others away. */
  label: (designs: string[], add: string[], remove: string[]) =>
    request("/api/shelf/labels", post({ designs, add, remove } satisfies LabelChange)),
  /** A ZIP with a file of each design. */
  files: async (designs: string[], format: FilesWanted["format"]) =>
    (await request("/api/shelf/files", post({ designs, format } satisfies FilesWanted))).blob(),
  /** What its STL is called by a pattern of file names. */
  fileName: (id: string, pattern: string) =>
    json<string>(`/api/designs/${id}/file-name?${asked({ pattern })}`),
  /** Lets a design be computed again whose computation had failed. */
  tryAgain: (id: string) => request(`/api/designs/${id}/try-again`, post()),
  /** Goes back to the last state that can be read. */
  rescue: (id: string, version: number) =>
    json<ShelfItem>(`/api/designs/${id}/rescue`, post(undefined, version)),
  /** The lines round a patch, as nodes. */
  nodes: (id: string, patch: number) => json<DrawnLine[]>(`/api/designs/${id}/nodes/${patch}`),
  /** What an entry mirrors or repeats, as it is before it. */
  side: (id: string, entry: number) => json<SideView>(`/api/designs/${id}/side/${entry}`),
  /** What the picture's file says of its maker; empty where it says nothing. */
  offeredCredit: (id: string) => json<Credit>(`/api/designs/${id}/offered-credit`),
  /** Where a patch is thinnest; null where it is nowhere thin. */
  thinnest: (id: string, patch: number) => json<Thinnest | null>(`/api/designs/${id}/thinnest/${patch}`),
  /** Patches as a change that adds them to any design. */
  copy: (id: string, patches: readonly number[]) =>
    json<Change>(`/api/designs/${id}/copy?patches=${patches.join(",")}`),
  /** Adds the patches of an SVG. */
  addPatches: (id: string, version: number, file: File) =>
    lean<DesignView>(`/api/designs/${id}/patches${look()}`, {
      method: "POST",
      body: formOf(file),
      headers: { "If-Match": `"${version}"` },
    }),
  /** Gives a design the outline of another. */
  takeOutline: (id: string, version: number, other: string) =>
    lean<DesignView>(`/api/designs/${id}/outline-of/${other}`, post(undefined, version)),
  /** Which mends of its findings mend nothing, and what mends all that can be mended without harm. */
  mends: (id: string) => json<MendsView>(`/api/designs/${id}/mends`),
  /** How long the print takes, how much filament, and when somebody has to be there. */
  print: (id: string, wish: PrintWish) => json<PrintView>(`/api/designs/${id}/print${wishOf(wish)}`),
  /** The lines of a layer of a print, by its key; 1 is the lowest. */
  layer: (id: string, layer: number, wish: PrintWish, of: string, signal: AbortSignal | null = null) =>
    jsonOf<LayerView>(`/api/designs/${id}/print/${layer}${wishOf(wish)}&of=${of}`, { signal }),
  /** A design of a set, against a limit of time as it is typed. */
  member: (id: string, limit: string) => json<SetMember>(`/api/designs/${id}/member?${asked({ limit })}`),
  recipes: () => json<RecipeView[]>("/api/recipes"),
  workshop: () => json<WorkshopView>("/api/workshop"),
  setWorkshop: (version: number, workshop: Workshop) =>
    json<WorkshopView>("/api/workshop", put(workshop, version)),
  /** Adds house measures out of a file. */
  bringHouses: (version: number, file: File) =>
    json<WorkshopView>("/api/workshop/houses", {
      method: "POST",
      body: formOf(file),
      headers: { "If-Match": `"${version}"` },
    }),
  snapshots: (id: string) => json<SnapshotView[]>(`/api/designs/${id}/snapshots`),
  keep: (id: string, name: string) => json<SnapshotView>(`/api/designs/${id}/snapshots`, post({ name })),
  kept: (id: string, snapshot: string, beside: Beside = {}) =>
    json<StateView>(`/api/designs/${id}/snapshots/${snapshot}?${asked(beside)}`),
  /** The steps that undo and redo go through, the last first. */
  steps: (id: string) => json<StepView[]>(`/api/designs/${id}/steps`),
  atStep: (id: string, step: number, beside: Beside = {}) =>
    json<StateView>(`/api/designs/${id}/steps/${step}?${asked(beside)}`),
  forget: (id: string, snapshot: string) =>
    request(`/api/designs/${id}/snapshots/${snapshot}`, { method: "DELETE" }),
  goBack: (id: string, version: number, snapshot: string) =>
    lean<DesignView>(`/api/designs/${id}/snapshots/${snapshot}/go-back${look()}`, post(undefined, version)),
  branch: (id: string, snapshot: string) =>
    json<ShelfItem>(`/api/designs/${id}/snapshots/${snapshot}/branch`, post()),
  /** The object in use, its sentences in a unit; null where there is nothing to see. */
  inUse: (key: string, unit: Unit, cup: CupAsked) =>
    json<InUseView | null>(`/api/in-use/${key}?${asked({ unit, ...cup })}`),
  inUseMesh: async (key: string, cup: CupAsked) =>
    (await request(`/api/in-use/${key}/mesh?${asked(cup)}`, {})).arrayBuffer(),
  mesh: async (key: string) => (await request(`/api/meshes/${key}`, {})).arrayBuffer(),
};

/** What a file input may offer; the server tells the format from the bytes. */
export const PICTURE_TYPES =
  "image/png,image/jpeg,image/webp,image/gif,image/bmp,image/tiff,image/svg+xml,.svg,.tif,.tiff,.bmp,.3mf";

/** The picture as it is traced; `key` changes with what was done to it. */
export const preparedUrl = (id: string, key: string) => `/api/designs/${id}/prepared?k=${key}`;
export const pictureUrl = (id: string) => `/api/designs/${id}/picture`;
export const thumbnailUrl = (id: string, version: number) => `/api/designs/${id}/thumbnail.svg?v=${version}`;
export const exportUrl = (id: string, format: "stl" | "stl-text" | "stl-parts" | "3mf" | "svg" | "png") =>
  `/api/designs/${id}/export/${format}`;
/** A step's plan; `made` tells a step from another that had its number. */
export const stepUrl = (id: string, step: number, made: string) =>
  `/api/designs/${id}/steps/${step}/thumbnail.svg?v=${encodeURIComponent(made)}`;
export const keptUrl = (id: string, snapshot: string) =>
  `/api/designs/${id}/snapshots/${snapshot}/thumbnail.svg`;
export const severalUrl = (id: string, formats: readonly string[]) =>
  `/api/designs/${id}/files.zip?formats=${formats.join(",")}`;
export const contoursUrl = (id: string) => `/api/designs/${id}/contours.svg`;
export const outlineUrl = (id: string) => `/api/designs/${id}/outline.svg`;
export const samplePictureUrl = (id: string) => `/api/samples/${id}/picture?small=true`;
