import { useState } from "react";
import { DIALOGS } from "../parts";
import { useInterface } from "../state/interface";
import { Button } from "./button";
import { Icon } from "./icons";
import { Item, Menu } from "./menu";
import { DialogPart } from "./part";
import { Tip } from "./tip";
import { useNarrow } from "./use-narrow";

/** The workshop, day or night, and the keys: on every page in the same place, in one menu where it is narrow. */
export function PageTools({ onWorkshop = () => undefined }: { onWorkshop?: () => void }) {
  const { isDark, toggleDark, setHelp } = useInterface();
  const [isOpen, setOpen] = useState(false);
  const isNarrow = useNarrow();
  const day = isDark ? "The workshop by day" : "The workshop at night";
  return (
    <>
      {isOpen && (
        <DialogPart part={DIALOGS.workshop} given={{ onClose: () => setOpen(false), onSaved: onWorkshop }} />
      )}
      {isNarrow ? (
        <Menu
          trigger={
            <Button look="bare" aria-label="Workshop and keys">
              <Icon name="more" />
            </Button>
          }
        >
          <Item words="Workshop" note="printers and filaments" onPick={() => setOpen(true)} />
          <Item words={day} onPick={toggleDark} />
          <Item words="Keys" onPick={() => setHelp(true)} />
        </Menu>
      ) : (
        <>
          <Tip words="Workshop: printers and filaments">
            <Button look="bare" aria-label="Workshop" onClick={() => setOpen(true)}>
              <Icon name="spool" />
            </Button>
          </Tip>
          <Tip words={day}>
            <Button look="bare" aria-label={isDark ? "Light mode" : "Dark mode"} onClick={toggleDark}>
              <Icon name={isDark ? "sun" : "moon"} />
            </Button>
          </Tip>
          <Tip words="Keys" keys="?">
            <Button look="bare" aria-label="Keys" onClick={() => setHelp(true)}>
              <Icon name="help" />
            </Button>
          </Tip>
        </>
      )}
    </>
  );
}
