import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { useEffect, useRef, useState } from "react";
import { api, PICTURE_TYPES, samplePictureUrl } from "../../api/client";
import { shelfQuery } from "../../api/shelf-query";
import { useHints } from "../../state/hints";
import { Button } from "../../ui/button";
import { Choice } from "../../ui/choice";
import { FileInput } from "../../ui/file-input";
import { Mark } from "../../ui/icons";
import { PageTools } from "../../ui/page-tools";
import { useDrop } from "../../ui/use-drop";
import { Beds, useBeds } from "./beds";
import { Bin } from "./bin";
import { ChosenBar } from "./chosen-bar";
import { LabelFilter, labelsOf } from "./labels";
import { ManyPictures } from "./many";
import { Standing } from "./standing";
import { useStart } from "./start";
import { useSeen } from "./use-seen";
import { useBring, WholeShelf } from "./whole-shelf";

/** How the shelf can be sorted. */
const SORTS = { changed: "Last changed", name: "Name", recipe: "Kind" } as const;

/** The designs were asked for ahead of the page, for the shelf that is drawn first; whoever comes back to it sees what is there now. */
let isAhead = location.pathname === "/";

/** The page with all designs. */
export function Shelf() {
  const { start, isBusy } = useStart();
  const {
    data: items,
    error,
    refetch,
  } = useQuery({ ...shelfQuery, refetchOnMount: () => (isAhead ? false : "always") });
  useEffect(() => {
    isAhead = false;
  }, []);
  const { data: beds } = useBeds();
  const { data: samples } = useQuery({ queryKey: ["samples"], queryFn: api.samples, staleTime: Infinity });
  const [many, setMany] = useState<readonly File[] | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [search, setSearch] = useState("");
  const [sort, setSort] = useState<keyof typeof SORTS>("changed");
  const [onlyLabel, setOnlyLabel] = useState<string | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const whole = useBring();

  useEffect(() => {
    document.title = "Kachel";
    const paste = (e: ClipboardEvent) => {
      const file = [...(e.clipboardData?.files ?? [])][0];
      if (file) void start(() => api.upload(file));
    };
    addEventListener("paste", paste);
    return () => removeEventListener("paste", paste);
  }, [start]);

  const isEmpty = items?.length === 0;
  useEffect(() => {
    if (isEmpty) useHints.getState().welcome();
  }, [isEmpty]);

  const take = (files: readonly File[]) => {
    const [file] = files;
    if (file && files.length === 1 && /\.zip$/i.test(file.name)) void whole.bring(file);
    else if (files.length > 1) setMany(files);
    else if (file) void start(() => api.upload(file));
  };
  const { isOver, drop } = useDrop(take);
  const labels = labelsOf(items ?? []);
  // The last design with it may have lost it.
  const label = labels.find((l) => l === onlyLabel) ?? null;
  const wanted = search.trim().toLowerCase();
  const found = items
    ?.filter((d) => label === null || d.labels.includes(label))
    .filter((d) => `${d.name} ${d.recipe} ${d.labels.join(" ")}`.toLowerCase().includes(wanted))
    .sort((a, b) => (sort === "changed" ? 0 : a[sort].localeCompare(b[sort], "en", { numeric: true })));
  // What has left the shelf is no longer chosen.
  const there = items?.filter((d) => chosen.has(d.id)) ?? [];
  const { count, more } = useSeen(`${wanted} ${sort} ${label}`, found?.length ?? 0);

  return (
    // The whole page takes dropped pictures; the button does the same.
    <div className="flex h-full flex-col gap-1.5 p-1.5" {...drop}>
      <header className="flex h-13 flex-none items-center gap-3 rounded-tile bg-tile pr-2 pl-4">
        <Mark />
        <h1 className="font-display text-xl font-semibold">Kachel</h1>
        <span className="text-sm text-soft">a picture in, an object out</span>
        <span className="ml-auto flex">
          <PageTools />
        </span>
      </header>

      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] grid-rows-[auto_auto_1fr] gap-1.5 overflow-y-auto">
        <section
          aria-label="New design"
          className={clsx(
            "grid grid-cols-[minmax(0,1fr)] gap-1.5 md:grid-cols-[minmax(0,5fr)_minmax(0,8fr)]",
            isOver && "[&>*:first-child]:bg-glaze",
          )}
        >
          <div className="flex min-h-56 flex-col low:min-h-40 items-center justify-center gap-3 rounded-tile bg-oven p-6 text-center text-[#faf7f1]">
            <p className="font-display text-2xl font-semibold">Drop pictures here</p>
            <p className="max-w-72 text-sm opacity-80">
              A logo, a silhouette, a drawing, a photo: PNG, JPEG, WebP, GIF, BMP, TIFF or SVG, up to 32 MB.
              Or paste one. Many at once become a set.
            </p>
            <Button
              look="plain"
              className="text-ink"
              why={isBusy && "A picture is being read"}
              onClick={() => input.current?.click()}
            >
              {isBusy ? "Reading…" : "Browse…"}
            </Button>
            <FileInput ref={input} label="Picture file" accept={PICTURE_TYPES} onFiles={take} />
          </div>
          <div className="rounded-tile bg-tile p-4">
            <h2 className="pb-2 font-display font-semibold">Or start from a sample</h2>
            <ul className="grid grid-cols-3 gap-1.5 lg:grid-cols-6" aria-label="Samples">
              {samples?.map((s) => (
                <li key={s.id}>
                  <button
                    type="button"
                    disabled={isBusy}
                    title={isBusy ? "A picture is being read" : undefined}
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
          <div className="flex flex-wrap items-center gap-2 pb-3">
            <h2 className="font-display font-semibold">
              Shelf{" "}
              <span className="font-sans text-sm font-normal text-soft">
                {items ? `${items.length} ${items.length === 1 ? "design" : "designs"}` : ""}
              </span>
            </h2>
            {(items?.length ?? 0) > 1 && (
              <>
                <input
                  value={search}
                  onChange={(e) => setSearch(e.target.value)}
                  placeholder="Search"
                  aria-label="Search the shelf"
                  className="ml-auto w-44 rounded-tile border border-edge bg-field px-2 py-1 text-sm"
                />
                <Choice
                  label="Sort by"
                  isBare
                  value={sort}
                  options={Object.entries(SORTS).map(([name, label]) => ({ name, label }))}
                  onChoose={(name) => setSort(name as keyof typeof SORTS)}
                />
              </>
            )}
            <span className={clsx("flex", (items?.length ?? 0) < 2 && "ml-auto")}>
              <WholeShelf isEmpty={items?.length === 0} work={whole} />
            </span>
          </div>
          <LabelFilter labels={labels} chosen={label} onChoose={setOnlyLabel} />
          {there.length > 0 && (
            <ChosenBar
              chosen={there}
              items={items ?? []}
              labels={labels}
              onAll={() => setChosen(new Set(found?.map((d) => d.id)))}
              onNone={() => setChosen(new Set())}
            />
          )}
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
          {items && items.length > 0 && found?.length === 0 && (
            <p className="py-6 text-center text-sm text-soft">No design of that name, kind or label.</p>
          )}
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(216px,1fr))] gap-y-6 overflow-x-clip">
            {found?.slice(0, count).map((d) => (
              <Standing
                key={d.id}
                item={d}
                isChosen={chosen.has(d.id)}
                isChoosing={there.length > 0}
                onChoose={(on) => {
                  const after = new Set(chosen);
                  if (on) after.add(d.id);
                  else after.delete(d.id);
                  setChosen(after);
                }}
              />
            ))}
            {more}
            {!items && !error && (
              <li className="h-52 animate-pulse border-b-6 border-line" aria-label="Loading" />
            )}
          </ul>
          <Bin changes={`${items?.length} ${beds?.length}`} />
        </section>
      </main>
      {many && (
        <ManyPictures
          files={many}
          onClose={(made) => {
            setMany(null);
            setChosen(new Set(made));
          }}
        />
      )}
    </div>
  );
}
