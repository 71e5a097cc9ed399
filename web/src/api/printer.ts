import { useQuery, useQueryClient } from "@tanstack/react-query";
import { ApiProblem, json, post, put, wishOf } from "./client";
import { complain } from "./complain";
import type { Failure } from "./generated/Failure";
import type { Order } from "./generated/Order";
import type { PlanGroup } from "./generated/PlanGroup";
import type { PrinterView } from "./generated/PrinterView";
import type { PrintWish } from "./generated/PrintWish";
import type { SentJob } from "./generated/SentJob";
import type { ShapeLayer } from "./generated/ShapeLayer";
import type { TakenView } from "./generated/TakenView";

/** What the printer, and the server about it, can be asked. */
export const printerApi = {
  show: () => json<PrinterView>("/api/printer"),
  order: (order: Order) => json<PrinterView>("/api/printer/orders", post({ order })),
  fail: (failure: Failure) => json<PrinterView>("/api/printer/failures", post({ failure })),
  setSpeed: (speed: number) => json<PrinterView>("/api/printer/speed", put({ speed })),
  remove: (job: string) => json<PrinterView>(`/api/printer/jobs/${job}`, { method: "DELETE" }),
  place: (job: string, to: number) => json<PrinterView>(`/api/printer/jobs/${job}/place`, put({ to })),
  again: (job: string) => json<SentJob>(`/api/printer/jobs/${job}/again`, post()),
  layer: (job: string, layer: number) => json<PlanGroup[]>(`/api/printer/jobs/${job}/layers/${layer}`),
  /** Its outermost lines, of some of its layers. */
  shape: (job: string) => json<ShapeLayer[]>(`/api/printer/jobs/${job}/shape`),
  sendDesign: (id: string, wish: PrintWish) =>
    json<SentJob>(`/api/designs/${id}/send${wishOf(wish)}`, post()),
  sendPlate: (id: string, plate: number) => json<SentJob>(`/api/beds/${id}/plates/${plate}/send`, post()),
  /** What a print really took, as it is typed. */
  reallyTook: (name: string, planned: number, took: string) =>
    json<TakenView>("/api/taken", post({ name, planned, took })),
  forgetTaken: () => json<TakenView>("/api/taken", { method: "DELETE" }),
};

const PRINTER = ["printer"];
/** So often the printer is looked at, ms: while its page is open, and from elsewhere. */
const EVERY = { close: 700, far: 5000 } as const;

/** The printer, looked at again and again. */
export function usePrinter(from: keyof typeof EVERY) {
  const cache = useQueryClient();
  const { data, error, refetch } = useQuery({
    queryKey: PRINTER,
    queryFn: printerApi.show,
    refetchInterval: EVERY[from],
    retry: false,
  });
  /** Tells the printer something, and shows what it does then. */
  const tell = async (what: Promise<PrinterView | SentJob>) => {
    try {
      const seen = await what;
      if ("state" in seen) cache.setQueryData(PRINTER, seen);
      else await cache.invalidateQueries({ queryKey: PRINTER });
    } catch (e) {
      complain(e);
      await cache.invalidateQueries({ queryKey: PRINTER });
    }
  };
  return {
    printer: data,
    problem: error instanceof ApiProblem ? error.problem : null,
    retry: () => void refetch(),
    tell,
  };
}
