import { useQuery } from "@tanstack/react-query";
import type { JobView } from "../api/generated/JobView";
import { useActivity } from "../state/activity";
import { Button } from "./button";

export function ActivityNote() {
  const job = useActivity((s) => s.slow);
  const { data } = useQuery({
    queryKey: ["job", job?.name],
    enabled: job !== null,
    refetchInterval: 300,
    retry: false,
    queryFn: async () => {
      const r = await fetch(`/api/jobs/${job?.name}`);
      return r.status === 200 ? ((await r.json()) as JobView) : null;
    },
  });
  if (!job) return null;
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
