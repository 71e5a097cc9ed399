import { useState } from "react";
import type { Bench } from "../../api/bench";
import { ApiProblem } from "../../api/client";
import type { PrintWish } from "../../api/generated/PrintWish";
import type { ResultView } from "../../api/generated/ResultView";
import { printerApi } from "../../api/printer";
import { DIALOGS } from "../../parts";
import { useAway } from "../../state/away";
import { Button } from "../../ui/button";
import { rough, shown, withUnit } from "../../ui/length";
import { fixed } from "../../ui/numbers";
import { Card, Group, Panel } from "../../ui/panel";
import { DialogPart } from "../../ui/part";
import { ProblemNote } from "../../ui/problem-note";
import { homeFiles, tookHome } from "../../ui/take-home";
import { Views } from "../../ui/views";
import { SendToPrinter } from "../printer/send";
import { Dimension } from "../views/drawing";
import { type Extent, useExtent } from "../views/frame";
import { TierShapes } from "../views/tier-shapes";
import { Fact, Spool } from "./fact";
import { Layers } from "./layers";
import { Estimate, HowFine, usePrint } from "./rehearsal";

/** The object on the printer's bed, what it takes, and the files to take home. */
export function Print({ bench }: { bench: Bench }) {
  const { result, design, isOld } = bench;
  const unit = design.document.unit;
  const s = result.solid;
  const [element, setElement] = useState<HTMLDivElement | null>(null);
  const extent = useExtent(element);
  const ready = s !== null && !isOld;
  // What was just chosen is shown before it is saved.
  const [asked, setAsked] = useState<{ wish: PrintWish; from: PrintWish } | null>(null);
  const saved = design.document.print;
  const wish = asked?.from === saved ? asked.wish : saved;
  const setWish = (print: PrintWish) => {
    setAsked({ wish: print, from: saved });
    void bench.commit([{ kind: "set-print", print }]).catch(() => setAsked(null));
  };
  const [isTaking, setTaking] = useState(false);
  const [view, setView] = useState<"layers" | "bed">("layers");
  const { data: print, error, isPlaceholderData } = usePrint(bench, wish);
  return (
    <Views names={["Layers and bed", "Take home"]} columns="grid-cols-[minmax(0,1fr)_320px]">
      <Panel
        title={view === "bed" ? "Bed" : "Layers"}
        note={view === "bed" ? "from above, as it is printed" : "as the nozzle lays them"}
        tools={
          <span className="flex gap-1.5">
            <SendToPrinter
              why={ready ? null : "There is no sound object to print: see Check"}
              send={() => printerApi.sendDesign(design.id, wish)}
              className="text-xs"
            />
            <Button className="text-xs" onClick={() => setView(view === "bed" ? "layers" : "bed")}>
              {view === "bed" ? "Show layers" : "Show the bed"}
            </Button>
          </span>
        }
        isOld={isOld}
      >
        <div ref={setElement} className="absolute inset-0">
          {view === "bed" && extent.width > 0 && <Bed result={result} extent={extent} />}
          {view === "layers" && print && s && (
            <Layers bench={bench} print={print} wish={wish} isBefore={isPlaceholderData} />
          )}
        </div>
      </Panel>
      <Card
        title="Take home"
        foot={
          <div className="grid grid-cols-2 gap-1.5">
            {homeFiles(design.id, s).map((f, k) => (
              <FileLink key={f.href} {...f} isReady={ready} isFirst={k === 0} />
            ))}
            <Button
              why={!ready && "There is no sound object yet: see Check"}
              onClick={() => setTaking(true)}
              className="col-span-full"
            >
              Several, or other names…
            </Button>
            {isTaking && (
              <DialogPart part={DIALOGS.take} given={{ bench, onClose: () => setTaking(false) }} />
            )}
          </div>
        }
      >
        {result.problem && <ProblemNote problem={result.problem} />}
        {error instanceof ApiProblem && !result.problem && (
          <p className="pb-2 text-sm text-terracotta" role="alert">
            {error.problem.detail}. {error.problem.hint}
          </p>
        )}
        {s && (
          <>
            {print ? (
              <Estimate print={print} unit={unit} name={design.document.name}>
                <HowFine
                  quality={wish.quality}
                  infill={print.infill}
                  onQuality={(quality) => setWish({ ...wish, quality })}
                  onInfill={(infill) => setWish({ ...wish, infill })}
                />
              </Estimate>
            ) : (
              !error && <p className="pb-2 text-sm text-soft">Going through the print…</p>
            )}
            <Group title="Object">
              <Fact words="Size" value={`${s.size.map((v) => rough(v, unit)).join(" × ")} ${unit}`} />
              <Fact words="Volume" value={`${fixed(s.volume / 1000, 2)} cm³`} />
              <Fact words="Mass" value={`${fixed(s.mass, 1)} g`} note="filled solid" />
            </Group>
            <Group title="Mesh">
              <Fact words="Sound" value={ready ? "yes" : "no"} note="watertight" />
              <Fact words="Triangles" value={`${s.triangles}`} />
            </Group>
            <Group title="Parts">
              {s.parts.map((p) => (
                <Spool key={p.name} filament={p.filament} colour={p.colour} grams={p.mass} />
              ))}
              {s.parts.length > 1 &&
                s.changes?.map((c) => (
                  <Fact
                    key={c.layer}
                    words={c.layer === 1 ? `Start with ${c.filament}` : `Change to ${c.filament}`}
                    value={c.layer === 1 ? "" : `layer ${c.layer}`}
                    note={c.layer === 1 ? "" : withUnit(c.height, unit, 1)}
                  />
                ))}
              {s.pauses.map((h) => (
                <Fact key={h} words="Pause to put the magnet in" value={withUnit(h, unit, 1)} />
              ))}
            </Group>
            <Group title="Bed">
              <Fact
                words={result.printer}
                value={`${result.bed.map((v) => shown(v, unit)).join(" × ")} ${unit}`}
              />
              <p className="pt-1 text-xs text-soft">{result.bed_words}</p>
            </Group>
          </>
        )}
      </Card>
    </Views>
  );
}

function FileLink(p: { words: string; note: string; href: string; isReady: boolean; isFirst?: boolean }) {
  const look = p.isFirst
    ? "col-span-full px-3 py-1.5 bg-deep text-on-deep hover:bg-glaze hover:text-on-glaze"
    : "border border-edge px-2 py-1 hover:border-glaze hover:text-glaze";
  const isAway = useAway((s) => s.isAway);
  if (!p.isReady || isAway) {
    return (
      <span
        className={`flex items-baseline rounded-tile text-sm font-semibold opacity-40 ${look}`}
        aria-disabled="true"
      >
        {p.words}
        {p.isFirst && (
          <span className="ml-auto text-xs font-normal">
            {isAway ? "the server is away" : "no sound object yet"}
          </span>
        )}
      </span>
    );
  }
  return (
    <a
      href={p.href}
      download
      onClick={() => tookHome(p.words)}
      className={`flex items-baseline rounded-tile text-sm font-semibold ${look}`}
      title={p.note}
    >
      {p.words}
      {p.isFirst && <span className="ml-auto text-xs font-normal opacity-80">{p.note}</span>}
    </a>
  );
}

function Bed({ result, extent }: { result: ResultView; extent: Extent }) {
  const [w, h] = result.bed;
  const k = Math.min((extent.width - 90) / w, (extent.height - 70) / h);
  const [cx, cy] = [extent.width / 2 + 10, extent.height / 2 - 10];
  const [x0, y0, x1, y1] = [cx - (w / 2) * k, cy - (h / 2) * k, cx + (w / 2) * k, cy + (h / 2) * k];
  const lines = (n: number) => Array.from({ length: Math.floor(n / 10) - 1 }, (_, i) => (i + 1) * 10);
  return (
    <svg width={extent.width} height={extent.height} className="block" role="img" aria-label="Bed">
      <rect
        x={x0}
        y={y0}
        width={w * k}
        height={h * k}
        rx="6"
        fill="var(--sunk)"
        stroke="var(--edge)"
        strokeWidth="1.5"
      />
      <g stroke="var(--line)" strokeWidth="0.8">
        {lines(w).map((mm) => (
          <path key={`x${mm}`} d={`M${x0 + mm * k} ${y0}V${y1}`} opacity={mm % 50 === 0 ? 1 : 0.45} />
        ))}
        {lines(h).map((mm) => (
          <path key={`y${mm}`} d={`M${x0} ${y1 - mm * k}H${x1}`} opacity={mm % 50 === 0 ? 1 : 0.45} />
        ))}
      </g>
      <g transform={`translate(${cx} ${cy}) scale(${k})`}>
        <TierShapes result={result} />
      </g>
      <Dimension
        from={[x0, y1 + 22]}
        to={[x1, y1 + 22]}
        at={[
          [x0, y1],
          [x1, y1],
        ]}
        text={`${w}`}
      />
      <Dimension
        from={[x0 - 22, y1]}
        to={[x0 - 22, y0]}
        at={[
          [x0, y1],
          [x0, y0],
        ]}
        text={`${h}`}
      />
    </svg>
  );
}
