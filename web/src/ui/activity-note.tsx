import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { JobView } from "../api/generated/JobView";
import { useActivity } from "../state/activity";
import { Button } from "./button";

/** Time after which the interface says what takes long. */
const PATIENCE_MS = 300;

/** Whether something has been computing for longer than a blink. */
export function useIsSlow(): boolean {
  const first = useActivity((s) => s.jobs[0]);
  const [isSlow, setSlow] = useState(false);
  useEffect(() => {
    setSlow(false);
    if (!first) return;
    const timer = setTimeout(() => setSlow(true), Math.max(0, PATIENCE_MS - (Date.now() - first.since)));
    return () => clearTimeout(timer);
  }, [first]);
  return isSlow;
}

export function ActivityNote() {
  const job = useActivity((s) => s.jobs[0]);
  const isSlow = useIsSlow();
  const { data } = useQuery({
    queryKey: ["job", job?.name],
    enabled: isSlow && job !== undefined,
    refetchInterval: 300,
    retry: false,
    queryFn: async () => {
      const r = await fetch(`/api/jobs/${job?.name}`);
      return r.status === 200 ? ((await r.json()) as JobView) : null;
    },
  });
  if (!isSlow || !job) return null;
  const share = data?.done;
  return (
    <div
      role="status"
      className="fixed bottom-4 left-4 z-40 flex items-center gap-3 rounded-tile bg-deep py-1.5 pr-2 pl-4 text-sm text-on-deep shadow-xl"
    >
      <span>
        {data?.words ?? "Working"}
        {typeof share === "number" && ` · ${Math.round(share * 100)} %`}
      </span>
      <Button className="border-current bg-transparent" onClick={job.stop}>
        Stop
      </Button>
    </div>
  );
}
