import type { ResultView } from "../../api/generated/ResultView";
import { useInterface } from "../../state/interface";
import { WordSwitch } from "../../ui/word-switch";

/** Whether plans are shown in the colours of filaments: as the maker says, else once filaments are chosen. */
export function useInFilaments(result: ResultView): boolean {
  return useInterface((s) => s.inFilaments) ?? result.is_painted;
}

/** Shows a plan by what things are, or in the colours of their filaments. */
export function FilamentSwitch({ result }: { result: ResultView }) {
  const is = useInFilaments(result);
  const show = useInterface((s) => s.showFilaments);
  return (
    <WordSwitch
      isOn={is}
      title={is ? "Show by what things are" : "Show in the colours of their filaments"}
      onClick={() => show(!is)}
    >
      Filaments
    </WordSwitch>
  );
}
