import { Select } from "radix-ui";
import { memo, type ReactNode, useId, useState } from "react";
import { Icon } from "./icons";
import { isSame } from "./is-same";
import { useSteady } from "./use-steady";

interface Props {
  label: string;
  meaning?: string;
  value: string;
  options: readonly { name: string; label: string; colour?: string; picture?: ReactNode }[];
  /** May promise something: until then, and until the value follows, what was chosen is shown. A promise of nothing was refused. */
  onChoose: (name: string) => unknown;
  /** Without the words before it, where they stand elsewhere. */
  isBare?: boolean;
}

function Swatch({ colour }: { colour: string | undefined }) {
  if (!colour) return null;
  return (
    <span
      className="mr-1.5 inline-block size-3 flex-none rounded-full border border-edge"
      style={{ background: colour }}
    />
  );
}

/** One of several, by name. */
export function Choice(p: Props) {
  const onChoose = useSteady(p.onChoose);
  return <Drawn {...p} onChoose={onChoose} />;
}

// Its options are drawn with it, also while they are not seen: a dozen of these take longer than all else that follows a hand.
const Drawn = memo(function Drawn(p: Props) {
  const id = useId();
  const [asked, setAsked] = useState<{ name: string; from: string } | null>(null);
  if (asked && asked.from !== p.value) setAsked(null);
  const value = asked?.name ?? p.value;
  const chosen = p.options.find((o) => o.name === value);
  const choose = (name: string) => {
    setAsked({ name, from: p.value });
    void Promise.resolve(p.onChoose(name)).then((done) => {
      if (done === undefined) setAsked((now) => (now?.name === name ? null : now));
    });
  };
  return (
    <div className={p.isBare ? "flex" : "flex items-center gap-2 py-[3px]"}>
      {!p.isBare && (
        <label htmlFor={id} className="flex-1 text-sm" title={p.meaning}>
          {p.label}
        </label>
      )}
      <Select.Root value={value} onValueChange={choose}>
        <Select.Trigger
          id={id}
          aria-label={p.label}
          className="flex min-w-[92px] max-w-40 items-center justify-between gap-1 rounded-tile border border-edge bg-field py-[3px] pr-1 pl-2 text-sm hover:border-glaze"
        >
          <span className="flex min-w-0 items-center">
            <Swatch colour={chosen?.colour} />
            {chosen?.picture}
            <span className="truncate">
              <Select.Value>{chosen?.label ?? "—"}</Select.Value>
            </span>
          </span>
          <Icon name="down" className="size-4 flex-none text-soft" />
        </Select.Trigger>
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            className="z-50 max-h-80 min-w-[var(--radix-select-trigger-width)] overflow-y-auto rounded-tile border border-line bg-tile p-1 shadow-xl"
          >
            <Select.Viewport>
              {p.options.map((o) => (
                <Select.Item
                  key={o.name}
                  value={o.name}
                  className="flex cursor-default items-center rounded-tile px-2 py-1 text-sm outline-none data-[highlighted]:bg-sunk data-[state=checked]:font-semibold"
                >
                  <Swatch colour={o.colour} />
                  {o.picture}
                  <Select.ItemText>{o.label}</Select.ItemText>
                </Select.Item>
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      </Select.Root>
    </div>
  );
}, isSame);
