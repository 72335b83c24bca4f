import type { Operation } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { count, plural, say } from '../ui/text';
import { useState } from 'react';
import type { RowChoice } from './ChooseRows';
import { fileQuery } from './queries';
import { RecordsLook, wordFile } from './RecordsLook';
import { tell } from '../ui/tell';

/** The file as the market would get it. */
export function FileLook({
  market,
  operation,
  choice,
  onClose,
}: {
  market: string;
  operation: Operation;
  choice: RowChoice;
  onClose: () => void;
}) {
  const [form, setForm] = useState<string>();
  const file = useQuery(fileQuery(market, operation, choice, form));
  return (
    <Modal title={file.data ? file.data.name : say`The file`} onClose={onClose} wide>
      {file.isLoading ? (
        <Loading />
      ) : file.error || !file.data ? (
        <Refused error={file.error} />
      ) : (
        <div className="overflow-auto p-4">
          {file.data.forms.length > 1 && (
            <label className="mb-2 flex items-center gap-2 text-sm">
              {say`Form`}
              <select
                className="select select-sm w-auto"
                value={form ?? file.data.form}
                onChange={(e) => {
                  setForm(e.target.value);
                }}
              >
                {file.data.forms.map((f) => (
                  <option key={f.key} value={f.key}>
                    {`${f.label} (${plural(f.rows, 'row', 'rows')})`}
                  </option>
                ))}
              </select>
            </label>
          )}
          <p className="mb-2 quiet">
            {tell`The first ${Math.min(50, file.data.total)} of ${count(file.data.total)} rows, exactly as the market will get them: ${wordFile(file.data.looks, file.data.encoding)}${file.data.looks.as === 'table' ? say`, under our words for its columns` : ''}.`}
          </p>
          <RecordsLook looks={file.data.looks} />
        </div>
      )}
    </Modal>
  );
}
