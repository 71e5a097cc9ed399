import { useQuery, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { useCallback, useEffect, useRef, useState } from "react";
import { Link, useLocation } from "wouter";
import { designKey } from "../../api/bench";
import { ApiProblem, api, PICTURE_TYPES, refusal, samplePictureUrl, thumbnailUrl } from "../../api/client";
import type { DesignView } from "../../api/generated/DesignView";
import type { ShelfItem } from "../../api/generated/ShelfItem";
import { useNotices } from "../../state/notices";
import { Button } from "../../ui/button";
import { FileInput } from "../../ui/file-input";
import { Icon, Mark } from "../../ui/icons";
import { Item, Menu } from "../../ui/menu";
import { PageTools } from "../../ui/page-tools";
import { RenameDialog } from "../../ui/rename-dialog";
import { Beds, useBeds, usePutOnBed } from "./beds";

const SHELF = ["shelf"];

/** Starts designs from pictures, however they arrive. */
function useStart() {
  const cache = useQueryClient();
  const [, go] = useLocation();
  const say = useNotices((s) => s.say);
  const [isBusy, setBusy] = useState(false);
  const start = useCallback(
    async (make: () => Promise<DesignView>) => {
      setBusy(true);
      try {
        const design = await make();
        cache.setQueryData(designKey(design.id), design);
        void cache.invalidateQueries({ queryKey: SHELF });
        go(`/design/${design.id}/artwork`);
      } catch (e) {
        const p = e instanceof ApiProblem ? e.problem : null;
        say({ text: p?.detail ?? String(e), hint: p?.hint ?? "", isBad: true, action: null });
      } finally {
        setBusy(false);
      }
    },
    [cache, go, say],
  );
  return { start, isBusy };
}

/** The page with all designs. */
export function Shelf() {
  const { start, isBusy } = useStart();
  const {
    data: items,
    error,
    refetch,
  } = useQuery({ queryKey: SHELF, queryFn: api.shelf, refetchOnMount: "always" });
  const { data: samples } = useQuery({ queryKey: ["samples"], queryFn: api.samples, staleTime: Infinity });
  const [isOver, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);

  useEffect(() => {
    document.title = "Kachel";
    const paste = (e: ClipboardEvent) => {
      const file = [...(e.clipboardData?.files ?? [])][0];
      if (file) void start(() => api.upload(file));
    };
    addEventListener("paste", paste);
    return () => removeEventListener("paste", paste);
  }, [start]);

  const take = (file: File | undefined) => {
    if (file) void start(() => api.upload(file));
  };

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the whole page takes dropped pictures; the button does the same
    <div
      className="flex h-full flex-col gap-1.5 p-1.5"
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        take(e.dataTransfer.files[0]);
      }}
    >
      <header className="flex h-13 flex-none items-center gap-3 rounded-tile bg-tile pr-2 pl-4">
        <Mark />
        <h1 className="font-display text-xl font-semibold">Kachel</h1>
        <span className="text-sm text-soft">a picture in, an object out</span>
        <span className="ml-auto flex">
          <PageTools />
        </span>
      </header>

      <main className="grid min-h-0 flex-1 grid-rows-[auto_auto_1fr] gap-1.5 overflow-y-auto">
        <section
          aria-label="New design"
          className={clsx(
            "grid gap-1.5 md:grid-cols-[minmax(0,5fr)_minmax(0,8fr)]",
            isOver && "[&>*:first-child]:bg-glaze",
          )}
        >
          <div className="flex min-h-56 flex-col items-center justify-center gap-3 rounded-tile bg-oven p-6 text-center text-[#faf7f1]">
            <p className="font-display text-2xl font-semibold">Drop a picture here</p>
            <p className="max-w-72 text-sm opacity-80">
              A logo, a silhouette, a drawing, a photo: PNG, JPEG, WebP, GIF, BMP, TIFF or SVG, up to 32 MB.
              Or paste it.
            </p>
            <Button
              look="plain"
              className="text-ink"
              disabled={isBusy}
              onClick={() => input.current?.click()}
            >
              {isBusy ? "Reading…" : "Browse…"}
            </Button>
            <FileInput ref={input} label="Picture file" accept={PICTURE_TYPES} onFile={take} />
          </div>
          <div className="rounded-tile bg-tile p-4">
            <h2 className="pb-2 font-display font-semibold">Or start from a sample</h2>
            <ul className="grid grid-cols-3 gap-1.5 lg:grid-cols-6" aria-label="Samples">
              {samples?.map((s) => (
                <li key={s.id}>
                  <button
                    type="button"
                    disabled={isBusy}
                    onClick={() => void start(() => api.fromSample(s.id))}
                    className="group flex h-full w-full flex-col items-center gap-1.5 rounded-tile bg-sunk p-1.5 pb-2 text-xs font-semibold hover:text-glaze"
                  >
                    <span className="flex h-17 w-full items-center justify-center rounded-tile bg-white p-1.5">
                      <img src={samplePictureUrl(s.id)} alt="" className="max-h-14 max-w-full" />
                    </span>
                    <span className="leading-tight">
                      <span className="block">{s.title}</span>
                      <span className="block font-normal text-soft">{s.kind}</span>
                    </span>
                  </button>
                </li>
              ))}
            </ul>
            <p className="pt-3 text-xs text-soft">
              Drawn for the autumn seed swap of the Fennhollow Allotments. Free to use (CC0).
            </p>
          </div>
        </section>

        <Beds />

        <section aria-label="Designs" className="rounded-tile bg-tile px-4 pt-4 pb-6">
          <h2 className="pb-3 font-display font-semibold">
            Shelf{" "}
            <span className="font-sans text-sm font-normal text-soft">
              {items ? `${items.length} ${items.length === 1 ? "design" : "designs"}` : ""}
            </span>
          </h2>
          {error && (
            <p role="alert" className="text-sm text-terracotta">
              {error.message}. <Button onClick={() => void refetch()}>Try again</Button>
            </p>
          )}
          {items?.length === 0 && (
            <p className="border-b-6 border-line py-10 text-center text-soft">
              Nothing on the shelf yet. Drop a picture above, or pick a sample.
            </p>
          )}
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(216px,1fr))] gap-y-6 overflow-x-clip">
            {items?.map((d) => (
              <Standing key={d.id} item={d} />
            ))}
            {!items && !error && (
              <li className="h-52 animate-pulse border-b-6 border-line" aria-label="Loading" />
            )}
          </ul>
        </section>
      </main>
    </div>
  );
}

/** A design as it stands on the board. */
function Standing({ item }: { item: ShelfItem }) {
  const cache = useQueryClient();
  const say = useNotices((s) => s.say);
  const [isRenaming, setRenaming] = useState(false);
  const { data: beds } = useBeds();
  const put = usePutOnBed();
  const refresh = () => cache.invalidateQueries({ queryKey: SHELF });
  const attempt = (work: Promise<unknown>) =>
    void work.then(refresh, (e: unknown) =>
      say({
        text: refusal(e),
        hint: "",
        isBad: true,
        action: null,
      }),
    );

  async function remove() {
    await api.remove(item.id);
    say({
      text: `${item.name} is off the shelf`,
      hint: "",
      isBad: false,
      action: { words: "Undo", run: () => attempt(api.restore(item.id)) },
    });
  }

  async function rename(name: string) {
    const d = await api.design(item.id);
    await api.edit(item.id, d.version, [{ kind: "rename", name }]);
    await Promise.all([refresh(), cache.invalidateQueries({ queryKey: designKey(item.id) })]);
  }

  const when = new Date(item.saved_at);
  return (
    <li className="flex flex-col" data-design={item.id}>
      <Link
        href={`/design/${item.id}/tiers`}
        className="flex h-40 items-end justify-center px-4 hover:[&>img]:-translate-y-1"
        aria-label={`Open ${item.name}`}
      >
        <img
          src={thumbnailUrl(item.id, item.version)}
          alt=""
          className="max-h-36 max-w-[86%] transition-transform"
        />
      </Link>
      {/* The board that the row stands on. */}
      <div className="board h-1.5 bg-line" />
      <div className="flex items-start gap-1 pt-2 pr-3 pl-3">
        <div className="min-w-0 flex-1">
          <p className="truncate text-sm font-semibold">{item.name}</p>
          <p className="text-xs text-soft">
            {item.recipe} ·{" "}
            {when.toLocaleString("en-GB", {
              day: "numeric",
              month: "short",
              hour: "2-digit",
              minute: "2-digit",
            })}
          </p>
        </div>
        <Menu
          trigger={
            <Button look="bare" aria-label={`More about ${item.name}`}>
              <Icon name="more" />
            </Button>
          }
        >
          <Item words="Rename…" onPick={() => setRenaming(true)} />
          <Item words="Duplicate" onPick={() => attempt(api.duplicate(item.id))} />
          <Item words="Put on a new bed" onPick={() => void put([item.id], null)} />
          {beds?.slice(0, 5).map((bed) => (
            <Item key={bed.id} words={`Put on ${bed.name}`} onPick={() => void put([item.id], bed.id)} />
          ))}
          <Item words="Delete" onPick={() => attempt(remove())} />
        </Menu>
      </div>
      {isRenaming && <RenameDialog name={item.name} onClose={() => setRenaming(false)} onRename={rename} />}
    </li>
  );
}
