import { Link } from 'react-router';
import { say } from '../ui/text';

const steps = [
  [say`Gather`, say`Bring in what you sell: a file from your business system or a supplier, with a SKU in each row.`],
  [say`Prepare`, say`Choose for each of your own categories where it stands on a market; the rest is carried over.`],
  [say`Check`, say`See what the market would refuse, by cause, and mend all rows of a cause at once.`],
  [say`Send`, say`Look at every row and every cell that would change, then let it go.`],
  [say`Settle`, say`Read the market’s answer line by line, mend what it refused, and send that again alone.`],
] as const;

/** What an empty house says: the path in five sentences, and the first step. */
export const FirstSteps = () => (
  <div className="panel p-6">
    <ol className="flex flex-col gap-3">
      {steps.map(([stop, says], i) => (
        <li key={stop} className="flex gap-3">
          <span className="num w-5 shrink-0 text-end quiet">{i + 1}</span>
          <span>
            <span className="font-serif font-semibold">{stop}.</span> {says}
          </span>
        </li>
      ))}
    </ol>
    <Link className="btn btn-primary btn-sm mt-5" to="/all/gather/imports">
      {say`Bring in a file`}
    </Link>
  </div>
);
