import { useState } from "react";
import { Link } from "wouter";
import type { Bench } from "../../api/bench";
import { exportUrl } from "../../api/client";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";
import { Icon, Mark } from "../../ui/icons";
import { rough } from "../../ui/length";
import { LinkItem, Menu } from "../../ui/menu";
import { PageTools } from "../../ui/page-tools";
import { RenameDialog } from "../../ui/rename-dialog";
import { Tip } from "../../ui/tip";
import { Snapshots } from "./snapshots";

export function TopBar({ bench }: { bench: Bench }) {
  const { design, result, isOld } = bench;
  const [isRenaming, setRenaming] = useState(false);
  const isComparing = useInterface((s) => s.isComparing);
  const compare = (isComparing: boolean) => useInterface.setState({ isComparing });
  const unit = design.document.unit;
  const s = result.solid;
  const saved = new Date(design.saved_at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return (
    <header className="flex items-center gap-3 rounded-tile bg-tile pr-2 pl-3">
      <Tip words="To the shelf">
        <Link href="/" aria-label="To the shelf" className="flex-none">
          <Mark />
        </Link>
      </Tip>
      <Tip words="Rename">
        <button
          type="button"
          onClick={() => setRenaming(true)}
          className="max-w-72 truncate rounded-tile px-1 font-display text-xl font-semibold hover:text-glaze"
          aria-label={`Name: ${design.document.name}. Rename`}
        >
          {design.document.name}
        </button>
      </Tip>
      <span className="text-sm text-soft" data-version={design.version}>
        saved {saved}
      </span>
      <div className="ml-auto hidden items-baseline gap-5 text-sm lg:flex" data-testid="facts">
        {s && (
          <>
            <span className={isOld ? "opacity-50" : undefined}>
              <b className="font-semibold">{s.size.map((v) => rough(v, unit)).join(" × ")}</b>{" "}
              <span className="text-soft">{unit}</span>
            </span>
            <span className={isOld ? "opacity-50" : undefined}>
              <b className="font-semibold">{(s.volume / 1000).toFixed(1)}</b>{" "}
              <span className="text-soft">cm³</span>
            </span>
            <span className={isOld ? "opacity-50" : undefined}>
              <b className="font-semibold">{s.mass.toFixed(1)}</b> <span className="text-soft">g</span>
            </span>
          </>
        )}
      </div>
      <div className="flex items-center lg:ml-2">
        <Tip words={design.undo ? `Undo: ${design.undo}` : "Nothing to undo"} keys="Ctrl Z">
          <Button
            look="bare"
            aria-label="Undo"
            disabled={!design.undo && !bench.isSaving}
            onClick={bench.undo}
          >
            <Icon name="undo" />
          </Button>
        </Tip>
        <Tip words={design.redo ? `Redo: ${design.redo}` : "Nothing to redo"} keys="Ctrl Shift Z">
          <Button look="bare" aria-label="Redo" disabled={!design.redo} onClick={bench.redo}>
            <Icon name="redo" />
          </Button>
        </Tip>
        <Tip words="Snapshots: keep, compare, go back">
          <Button look="bare" aria-label="Snapshots" onClick={() => compare(true)}>
            <Icon name="keep" />
          </Button>
        </Tip>
        <PageTools onWorkshop={bench.refresh} />
      </div>
      <Menu
        trigger={
          <Button look="solid" disabled={!s || isOld}>
            Take home <Icon name="down" className="size-4" />
          </Button>
        }
      >
        <LinkItem words="STL" note="one body" href={exportUrl(design.id, "stl")} />
        <LinkItem words="3MF" note="with name and credit" href={exportUrl(design.id, "3mf")} />
      </Menu>
      {isRenaming && (
        <RenameDialog
          name={design.document.name}
          onClose={() => setRenaming(false)}
          onRename={(name) => bench.commit([{ kind: "rename", name }])}
        />
      )}
      {isComparing && <Snapshots bench={bench} onClose={() => compare(false)} />}
    </header>
  );
}
