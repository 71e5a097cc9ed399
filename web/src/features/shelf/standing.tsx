import { useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { useRef, useState } from "react";
import { Link, useLocation } from "wouter";
import { api, PICTURE_TYPES, thumbnailUrl } from "../../api/client";
import { complain } from "../../api/complain";
import { designKey } from "../../api/design-query";
import type { ShelfItem } from "../../api/generated/ShelfItem";
import { SHELF } from "../../api/shelf-query";
import { Button } from "../../ui/button";
import { FileInput } from "../../ui/file-input";
import { Icon } from "../../ui/icons";
import { Item, Menu } from "../../ui/menu";
import { RenameDialog } from "../../ui/rename-dialog";
import { startedAs } from "../sets/alike";
import { usualOf } from "../sets/usual";
import { useBeds, usePutOnBed } from "./beds";
import { useShelfWork } from "./shelf-work";

/** One for all tiles: each takes a millisecond to make. */
const DAY_AND_TIME = new Intl.DateTimeFormat(navigator.language, {
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
});

/** A design as it stands on the board. */
export function Standing(p: {
  item: ShelfItem;
  isChosen: boolean;
  /** Whether anything is chosen: then all show their marks. */
  isChoosing: boolean;
  onChoose: (isChosen: boolean) => void;
}) {
  const { item } = p;
  const cache = useQueryClient();
  const { attempt, refresh, sayGone } = useShelfWork(SHELF);
  const [isRenaming, setRenaming] = useState(false);
  const picture = useRef<HTMLInputElement>(null);
  const [, go] = useLocation();
  const { data: beds } = useBeds();
  const put = usePutOnBed();

  async function remove() {
    await api.remove(item.id);
    sayGone(`${item.name} is`, () => api.restore(item.id));
  }

  async function rename(name: string) {
    const d = await api.design(item.id);
    await api.edit(item.id, d.version, [{ kind: "rename", name }]);
    await Promise.all([refresh(), cache.invalidateQueries({ queryKey: designKey(item.id) })]);
  }

  /** A new design with this one's recipe, measures and filaments. */
  async function again(file: File) {
    const usual = usualOf([await api.member(item.id, "")]);
    if (!usual) return;
    const made = await startedAs(file, usual);
    await refresh();
    go(`/design/${made}/tiers`);
  }

  const when = new Date(item.saved_at);
  return (
    <li className="group relative flex flex-col" data-design={item.id}>
      <input
        type="checkbox"
        aria-label={`Choose ${item.name}`}
        checked={p.isChosen}
        onChange={(e) => p.onChoose(e.target.checked)}
        className={clsx(
          "absolute top-0 left-2 z-10 size-6 accent-(--glaze) focus-visible:opacity-100",
          !p.isChosen && !p.isChoosing && "opacity-0 group-hover:opacity-100 pointer-coarse:opacity-100",
        )}
      />
      {item.damage || item.is_left_alone ? (
        <Hurt item={item} />
      ) : (
        <Link
          href={`/design/${item.id}/tiers`}
          className="flex h-40 items-end justify-center px-4 hover:[&>img]:-translate-y-1"
          aria-label={`Open ${item.name}`}
        >
          <img
            src={thumbnailUrl(item.id, item.version)}
            alt=""
            loading="lazy"
            className="max-h-36 max-w-[86%] transition-transform"
          />
        </Link>
      )}
      {/* The board that the row stands on. */}
      <div className="board h-1.5 bg-line" />
      <div className="flex items-start gap-1 pt-2 pr-3 pl-3">
        <div className="min-w-0 flex-1">
          <p className="truncate text-sm font-semibold">{item.name}</p>
          <p className="text-xs text-soft">
            {item.recipe} · {DAY_AND_TIME.format(when)}
          </p>
          {item.labels.length > 0 && (
            <p className="truncate pt-0.5 text-xs text-glaze" title={item.labels.join(", ")}>
              {item.labels.join(" · ")}
            </p>
          )}
        </div>
        <Menu
          trigger={
            <Button look="bare" aria-label={`More about ${item.name}`}>
              <Icon name="more" />
            </Button>
          }
        >
          {!item.damage && (
            <>
              <Item words="Rename…" onPick={() => setRenaming(true)} />
              <Item words="Duplicate" onPick={() => attempt(api.duplicate(item.id))} />
              <Item words="Same again with another picture…" onPick={() => picture.current?.click()} />
              <Item words="Put on a new bed" onPick={() => void put([item.id], null)} />
              {beds?.slice(0, 5).map((bed) => (
                <Item key={bed.id} words={`Put on ${bed.name}`} onPick={() => void put([item.id], bed.id)} />
              ))}
            </>
          )}
          <Item words="Delete" onPick={() => attempt(remove())} />
        </Menu>
      </div>
      <FileInput
        ref={picture}
        label={`Another picture for a copy of ${item.name}`}
        accept={PICTURE_TYPES}
        tabIndex={-1}
        onFile={(file) => void again(file).catch(complain)}
      />
      {isRenaming && <RenameDialog name={item.name} onClose={() => setRenaming(false)} onRename={rename} />}
    </li>
  );
}

/** A design that cannot be opened: why, and the way back. */
function Hurt({ item }: { item: ShelfItem }) {
  const { attempt } = useShelfWork(SHELF);
  return (
    <div className="flex h-40 flex-col items-center justify-end gap-2 px-4 pb-2 text-center" role="note">
      <p className="line-clamp-4 text-xs text-terracotta">
        {item.damage?.why ?? "Its computation has failed twice, so it is left alone. It is as it was saved."}
      </p>
      {!item.damage && (
        <span className="flex gap-2">
          <Button className="text-xs" onClick={() => attempt(api.tryAgain(item.id))}>
            Try again
          </Button>
          <Link href={`/design/${item.id}/tiers`} className="text-xs underline">
            Open
          </Link>
        </span>
      )}
      {item.damage?.has_earlier && (
        <Button className="text-xs" onClick={() => attempt(api.rescue(item.id, item.version))}>
          Go back to the state before
        </Button>
      )}
    </div>
  );
}
