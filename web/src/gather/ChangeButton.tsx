import { count, say } from '../ui/text';

/** Changing in bulk what is marked, where that is some of the rows, or all that is shown. */
export function ChangeButton({
  marked,
  shown,
  isWhole,
  onChange,
}: {
  marked: number;
  shown: number;
  /** False where families are closed: their variants are meant too, and are not counted here. */
  isWhole: boolean;
  onChange: (isMarked: boolean) => void;
}) {
  const isMarked = marked > 1 && marked < shown;
  return (
    <button
      type="button"
      className="btn btn-sm"
      disabled={shown === 0}
      title={say`Change many items at once: nothing is written before you have seen it`}
      onClick={() => {
        onChange(isMarked);
      }}
    >
      {isMarked
        ? say`Change the ${count(marked)} marked …`
        : say`Change ${shown === 0 || !isWhole ? '' : say`all ${count(shown)} `}in bulk …`}
    </button>
  );
}
