import { memo, useState } from "react";
import type { Bench } from "../../api/bench";
import { DIALOGS } from "../../parts";
import { useInterface } from "../../state/interface";
import { BAR, UndoRedo, WorkTitle } from "../../ui/bar-parts";
import { Button } from "../../ui/button";
import { Icon } from "../../ui/icons";
import { rough } from "../../ui/length";
import { Item, LinkItem, Menu } from "../../ui/menu";
import { fixed } from "../../ui/numbers";
import { PageTools } from "../../ui/page-tools";
import { DialogPart } from "../../ui/part";
import { RenameDialog } from "../../ui/rename-dialog";
import { homeFiles, tookHome } from "../../ui/take-home";
import { Tip } from "../../ui/tip";
import { StepsMenu } from "./steps-menu";

export const TopBar = memo(function TopBar({ bench }: { bench: Bench }) {
  const { design, result, isOld } = bench;
  const [isRenaming, setRenaming] = useState(false);
  const [isTaking, setTaking] = useState(false);
  const isComparing = useInterface((s) => s.isComparing);
  const compare = (isComparing: boolean) => useInterface.setState({ isComparing });
  const unit = design.document.unit;
  const s = result.solid;
  return (
    <header className={BAR}>
      <WorkTitle
        name={design.document.name}
        version={design.version}
        savedAt={design.saved_at}
        onRename={() => setRenaming(true)}
      />
      <div className="ml-auto hidden items-baseline gap-5 text-sm lg:flex" data-testid="facts">
        {s && (
          <>
            <span className={isOld ? "opacity-50" : undefined}>
              <b className="font-semibold">{s.size.map((v) => rough(v, unit)).join(" × ")}</b>{" "}
              <span className="text-soft">{unit}</span>
            </span>
            <span className={isOld ? "opacity-50" : undefined}>
              <b className="font-semibold">{fixed(s.volume / 1000, 1)}</b>{" "}
              <span className="text-soft">cm³</span>
            </span>
            <span className={isOld ? "opacity-50" : undefined}>
              <b className="font-semibold">{fixed(s.mass, 1)}</b> <span className="text-soft">g</span>
            </span>
          </>
        )}
      </div>
      <div className="flex items-center narrow:ml-auto lg:ml-2">
        <UndoRedo
          undo={design.undo}
          redo={design.redo}
          isSaving={bench.isSaving}
          onUndo={bench.undo}
          onRedo={bench.redo}
        />
        <StepsMenu bench={bench} />
        <Tip words="Snapshots: keep, compare, go back">
          <Button look="bare" aria-label="Snapshots" onClick={() => compare(true)}>
            <Icon name="keep" />
          </Button>
        </Tip>
        <PageTools onWorkshop={bench.refresh} />
      </div>
      <Menu
        trigger={
          <Button look="solid" why={(!s || isOld) && "There is no object yet: see what the page says"}>
            Take home <Icon name="down" className="size-4" />
          </Button>
        }
      >
        {homeFiles(design.id, s).map((f) => (
          <LinkItem key={f.href} {...f} onTake={() => tookHome(f.words)} />
        ))}
        <Item words="Several, or other names…" onPick={() => setTaking(true)} />
      </Menu>
      {isRenaming && (
        <RenameDialog
          name={design.document.name}
          onClose={() => setRenaming(false)}
          onRename={(name) => bench.commit([{ kind: "rename", name }])}
        />
      )}
      {isTaking && <DialogPart part={DIALOGS.take} given={{ bench, onClose: () => setTaking(false) }} />}
      {isComparing && (
        <DialogPart part={DIALOGS.snapshots} given={{ bench, onClose: () => compare(false) }} />
      )}
    </header>
  );
});
