import type { ResultView } from "../../api/generated/ResultView";
import { useInterface } from "../../state/interface";
import { Button } from "../../ui/button";

/** Whether plans are shown in the colours of filaments: as the maker says, else once filaments are chosen. */
export function useInFilaments(result: ResultView): boolean {
  return useInterface((s) => s.inFilaments) ?? result.is_painted;
}

/** Shows a plan by what things are, or in the colours of their filaments. */
export function FilamentSwitch({ result }: { result: ResultView }) {
  const is = useInFilaments(result);
  const show = useInterface((s) => s.showFilaments);
  return (
    <Button
      look="bare"
      className="h-6 w-auto rounded-tile px-2 text-xs aria-pressed:bg-sunk aria-pressed:text-glaze"
      aria-pressed={is}
      title={is ? "Show by what things are" : "Show in the colours of their filaments"}
      onClick={() => show(!is)}
    >
      Filaments
    </Button>
  );
}
