import { useEffect } from "react";
import Markdown from "react-markdown";
import remarkGfm from "remark-gfm";
import { Link } from "wouter";
import { BAR, ToShelf } from "../../ui/bar-parts";
import { PageTools } from "../../ui/page-tools";

// The pages of docs/guide and their pictures ship with the application.
const PAGES = import.meta.glob<string>("../../../../docs/guide/*.md", {
  query: "?raw",
  import: "default",
  eager: true,
});
const PICTURES = import.meta.glob<string>("../../../../docs/screenshots/{shelf,tiers,tiers-coaster}.png", {
  query: "?url",
  import: "default",
  eager: true,
});

const named = <T,>(all: Record<string, T>, file: string) =>
  Object.entries(all).find(([path]) => path.endsWith(`/${file}`))?.[1];

/** A page of the guide; the first one where there is none of that name. */
export function GuidePage({ name }: { name: string }) {
  const text = named(PAGES, `${name}.md`) ?? named(PAGES, "README.md") ?? "";
  const title = text.match(/^# (.*)$/m)?.[1] ?? "Guide";
  useEffect(() => {
    document.title = `${title} · Guide · Kachel`;
    document.querySelector("main")?.scrollTo(0, 0);
  }, [title]);
  return (
    <div className="grid h-full grid-rows-[auto_minmax(0,1fr)] gap-1.5 p-1.5">
      <header className={BAR}>
        <ToShelf />
        <Link href="/guide" className="font-display text-xl font-semibold hover:text-glaze">
          Guide
        </Link>
        <span className="ml-auto flex">
          <PageTools />
        </span>
      </header>
      <main className="overflow-y-auto rounded-tile bg-tile px-6 py-5">
        <article className="guide mx-auto max-w-2xl">
          <Markdown
            remarkPlugins={[remarkGfm]}
            components={{
              a: ({ href = "", children }) => (
                <Link href={`/guide/${href.replace(/\.md$/, "")}`}>{children}</Link>
              ),
              img: ({ src, alt = "" }) => (
                <img src={named(PICTURES, String(src).split("/").at(-1) ?? "")} alt={alt} loading="lazy" />
              ),
            }}
          >
            {text}
          </Markdown>
        </article>
      </main>
    </div>
  );
}
