import { useState } from "react";
import { WorkshopDialog } from "../features/workshop/workshop-dialog";
import { useInterface } from "../state/interface";
import { Button } from "./button";
import { Icon } from "./icons";
import { Tip } from "./tip";

/** The workshop, day or night, and the keys: on every page in the same place. */
export function PageTools({ onWorkshop = () => undefined }: { onWorkshop?: () => void }) {
  const { isDark, toggleDark, setHelp } = useInterface();
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Tip words="Workshop: printers and filaments">
        <Button look="bare" aria-label="Workshop" onClick={() => setOpen(true)}>
          <Icon name="spool" />
        </Button>
      </Tip>
      {isOpen && <WorkshopDialog onClose={() => setOpen(false)} onSaved={onWorkshop} />}
      <Tip words={isDark ? "The workshop by day" : "The workshop at night"}>
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
  );
}
