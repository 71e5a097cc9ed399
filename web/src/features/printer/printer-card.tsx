import type { ReactNode } from "react";
import type { Failure } from "../../api/generated/Failure";
import type { JobItem } from "../../api/generated/JobItem";
import type { Order } from "../../api/generated/Order";
import type { PrinterView } from "../../api/generated/PrinterView";
import type { State } from "../../api/generated/State";
import type { WorkView } from "../../api/generated/WorkView";
import type { usePrinter } from "../../api/printer";
import { printerApi } from "../../api/printer";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { Icon } from "../../ui/icons";
import { Item, Menu } from "../../ui/menu";
import { Card, Group } from "../../ui/panel";
import { Fact, Spool } from "../print/fact";
import { clock } from "../print/time";

type Tell = ReturnType<typeof usePrinter>["tell"];

/** What 'go on' means, by what it waits for. */
const GO_ON: Partial<Record<State, string>> = {
  waiting: "It is done, go on",
  paused: "Go on",
  "filament-out": "A new spool is in, go on",
  off: "The power is back",
};

const ORDERS: Record<Exclude<Order, "go-on">, string> = {
  pause: "Pause",
  stop: "Stop the print",
  clear: "The bed is clear",
};

const FAILURES: Record<Failure, string> = {
  "filament-out": "The filament runs out",
  "came-loose": "The print comes loose",
  "power-cut": "The power is cut",
};

const SPEEDS = [1, 10, 60, 200, 600];

/** What the printer is doing, what it can be told, and what waits. */
export function PrinterCard({ printer, tell }: { printer: PrinterView; tell: Tell }) {
  const { job, state } = printer;
  const isAsking = state in GO_ON || state === "came-loose" || state === "ended";
  // What it waits for; a loose print can only be stopped.
  const isNext = (order: Order) =>
    order === "go-on" || order === "clear" || (order === "stop" && state === "came-loose");
  return (
    <Card title="What it is doing">
      <div aria-live="polite" className={isAsking ? "border-l-4 border-terracotta pl-2.5" : ""}>
        <p className="font-display text-lg leading-tight font-semibold" data-testid="printer-says">
          {printer.headline}
        </p>
        {printer.advice && <p className="pt-1 text-sm text-soft">{printer.advice}</p>}
      </div>
      <div className="flex flex-wrap gap-1.5 py-3">
        {[...printer.orders]
          .sort((a, b) => Number(isNext(b)) - Number(isNext(a)))
          .map((order) => (
            <Button
              key={order}
              look={isNext(order) ? "solid" : "plain"}
              onClick={() => tell(printerApi.order(order))}
            >
              {order === "go-on" ? GO_ON[state] : ORDERS[order]}
            </Button>
          ))}
        {printer.failures.length > 0 && (
          <Menu
            trigger={
              <Button>
                Let it fail <Icon name="down" className="size-4" />
              </Button>
            }
          >
            {printer.failures.map((f) => (
              <Item key={f} words={FAILURES[f]} onPick={() => void tell(printerApi.fail(f))} />
            ))}
          </Menu>
        )}
      </div>
      {job && <Work job={job} isOver={state === "ended"} />}
      <Group title="Printer">
        <Fact words="Nozzle" value={degrees(printer.nozzle)} note={aim(printer.nozzle_to)} />
        <Fact words="Plate" value={degrees(printer.plate)} note={aim(printer.plate_to)} />
        <Choice
          label="Speed"
          meaning="How many times as fast as a real printer"
          value={String(printer.speed)}
          options={[...new Set([...SPEEDS, printer.speed])]
            .sort((a, b) => a - b)
            .map((v) => ({ name: String(v), label: v === 1 ? "as a real one" : `${v} times` }))}
          onChoose={(name) => tell(printerApi.setSpeed(Number(name)))}
        />
      </Group>
      {printer.queue.length > 0 && (
        <Group title="Next" note={`${printer.queue.length}`}>
          <ul aria-label="Queue">
            {printer.queue.map((j, k) => (
              <Waiting key={j.id} job={j} place={k} count={printer.queue.length} tell={tell} />
            ))}
          </ul>
        </Group>
      )}
      {printer.ended.length > 0 && (
        <Group title="Printed before">
          <ul aria-label="Printed before">
            {printer.ended.slice(0, MOST_ENDED).map((j) => (
              <Ended key={j.id} job={j} tell={tell} />
            ))}
          </ul>
        </Group>
      )}
    </Card>
  );
}

const MOST_ENDED = 8;
const degrees = (c: number) => `${Math.round(c)} °C`;
const aim = (to: number) => (to > 0 ? `to ${degrees(to)}` : "off");

/** The job on the bed. */
function Work({ job, isOver }: { job: WorkView; isOver: boolean }) {
  const percent = Math.floor(job.share * 100);
  return (
    <Group title={job.name}>
      <div
        className="my-1 h-2 overflow-hidden rounded-full bg-line"
        role="progressbar"
        aria-label="How much is printed"
        aria-valuenow={percent}
        aria-valuemin={0}
        aria-valuemax={100}
      >
        <div className="h-full bg-glaze" style={{ width: `${job.share * 100}%` }} />
      </div>
      <Fact words="Layer" value={`${job.layer} of ${job.layers}`} note={`${percent} %`} />
      {!isOver && <Fact words="Left" value={clock(job.left)} note="at a real one's speed" />}
      <Fact words="Printed for" value={clock(job.took)} />
      <Spool {...job.filament} filament={job.filament.name} note="loaded" />
      {job.next && !isOver && (
        <Fact words={job.next.what} value={`layer ${job.next.layer}`} note="somebody has to be there" />
      )}
    </Group>
  );
}

/** What can be done with a job. */
function More({ about, children }: { about: string; children: ReactNode }) {
  return (
    <Menu
      trigger={
        <Button look="bare" className="size-7" aria-label={`${about}: what can be done`}>
          <Icon name="more" className="size-4" />
        </Button>
      }
    >
      {children}
    </Menu>
  );
}

function Waiting(p: { job: JobItem; place: number; count: number; tell: Tell }) {
  const { job, place, tell } = p;
  return (
    <li className="flex items-center gap-1 py-0.5 text-sm">
      <span className="min-w-0 flex-1 truncate font-semibold">{job.name}</span>
      <span className="text-xs whitespace-nowrap text-soft">{clock(job.seconds)}</span>
      <More about={job.name}>
        <Item
          words="Next"
          why={place === 0 && "it is next"}
          onPick={() => void tell(printerApi.place(job.id, 0))}
        />
        <Item
          words="Later"
          why={place + 1 === p.count && "it is the last"}
          onPick={() => tell(printerApi.place(job.id, place + 1))}
        />
        <Item words="Take out of the queue" onPick={() => void tell(printerApi.remove(job.id))} />
      </More>
    </li>
  );
}

const OUTCOMES = { finished: "printed in", stopped: "stopped after", failed: "came loose after" } as const;

function Ended({ job, tell }: { job: JobItem; tell: Tell }) {
  return (
    <li className="flex items-center gap-1 py-0.5 text-sm">
      <span className="min-w-0 flex-1 truncate font-semibold">{job.name}</span>
      <span className="text-xs whitespace-nowrap text-soft">
        {job.outcome && OUTCOMES[job.outcome]} {clock(job.took)}
      </span>
      <More about={job.name}>
        <Item words="Print it again" onPick={() => void tell(printerApi.again(job.id))} />
        <Item words="Forget it" onPick={() => void tell(printerApi.remove(job.id))} />
      </More>
    </li>
  );
}
