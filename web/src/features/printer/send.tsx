import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useLocation } from "wouter";
import { complain } from "../../api/complain";
import type { SentJob } from "../../api/generated/SentJob";
import { usePrinter } from "../../api/printer";
import { Button } from "../../ui/button";

/** Sends a print to the practice printer, and goes there. */
export function SendToPrinter(p: { send: () => Promise<SentJob>; why: string | null; className?: string }) {
  const cache = useQueryClient();
  const [, go] = useLocation();
  const [isBusy, setBusy] = useState(false);
  const send = async () => {
    setBusy(true);
    try {
      await p.send();
      await cache.invalidateQueries({ queryKey: ["printer"] });
      go("/printer");
    } catch (e) {
      complain(e);
    } finally {
      setBusy(false);
    }
  };
  return (
    <Button className={p.className} why={p.why ?? (isBusy && "It is being sent")} onClick={() => void send()}>
      {isBusy ? "Sending…" : "Send to the printer"}
    </Button>
  );
}

/** The way to the printer, with what it is doing. */
export function PrinterLink() {
  const { printer, problem } = usePrinter("far");
  const share = printer?.job ? ` · ${Math.floor(printer.job.share * 100)} %` : "";
  return (
    <Link
      href="/printer"
      className="flex-none rounded-tile border border-edge px-2.5 py-1 text-sm font-semibold hover:border-glaze hover:text-glaze"
    >
      Practice printer
      <span className="pl-2 font-normal text-soft">
        {problem ? "does not answer" : printer ? `${printer.headline}${share}` : ""}
      </span>
    </Link>
  );
}
