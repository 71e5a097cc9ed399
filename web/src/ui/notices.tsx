import { Toast } from "radix-ui";
import { useNotices } from "../state/notices";
import { Button } from "./button";
import { Icon } from "./icons";
import { said } from "./numbers";

/** Short messages at the foot of the page; one with an action stays longer. */
export function Notices() {
  const { notices, dismiss } = useNotices();
  return (
    <Toast.Provider swipeDirection="down">
      {notices.map((n) => (
        <Toast.Root
          key={n.id}
          duration={n.action || n.isBad ? 12000 : 5000}
          onOpenChange={(open) => !open && dismiss(n.id)}
          className="flex items-center gap-3 rounded-tile bg-deep py-2 pr-2 pl-4 text-on-deep shadow-xl"
        >
          <div className="flex-1">
            <Toast.Title className="text-sm font-semibold">{said(n.text)}</Toast.Title>
            {n.hint && <Toast.Description className="text-xs opacity-85">{said(n.hint)}</Toast.Description>}
          </div>
          {n.action && (
            <Toast.Action altText={n.action.words} asChild>
              <Button className="border-current bg-transparent" onClick={n.action.run}>
                {n.action.words}
              </Button>
            </Toast.Action>
          )}
          <Toast.Close aria-label="Dismiss" className="rounded-tile p-1 hover:opacity-70">
            <Icon name="close" className="size-4" />
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed bottom-4 left-1/2 z-50 flex w-[min(560px,92vw)] -translate-x-1/2 flex-col gap-2" />
    </Toast.Provider>
  );
}
