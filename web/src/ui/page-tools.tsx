import { useInterface } from "../state/interface";
import { Button } from "./button";
import { Icon } from "./icons";
import { Tip } from "./tip";

/** Day or night, and the keys: on every page in the same place. */
export function PageTools() {
  const { isDark, toggleDark, setHelp } = useInterface();
  return (
    <>
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
