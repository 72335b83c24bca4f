import type { ImportReadingShape } from '@basileus/contract';
import { readHeadingUnit, toFlatKey } from '@basileus/core/product';
import { guessKind } from '@basileus/core/sheet';
import { useQuery } from '@tanstack/react-query';
import { emptyDraft } from '../own/draft';
import { FieldForm } from '../own/FieldForm';
import { fieldsQuery } from '../own/fields';
import { Modal } from '../ui/Modal';
import { say } from '../ui/text';

/** A field of ours for a column that none is for, as its heading and its cells say it. */
export function FieldOfNewColumn({
  column: { name, samples },
  onClose,
}: {
  column: ImportReadingShape['columns'][number];
  /** With the key of the field that was made; none where it is empty. */
  onClose: (key: string) => void;
}) {
  const own = useQuery(fieldsQuery).data;
  const unit = readHeadingUnit(name);
  return (
    <Modal
      title={say`A field for “${name}”`}
      onClose={() => {
        onClose('');
      }}
    >
      {own && (
        <FieldForm
          own={own}
          draft={{
            ...emptyDraft(say`More`),
            label: name.replace(/\s*[([][^)\]]*[)\]]\s*$/, '').slice(0, 60),
            kind: guessKind(samples, unit !== undefined),
            unit: unit ?? null,
            names: name.length > 60 ? '' : name,
          }}
          onClose={(_, made) => {
            onClose(made ? toFlatKey(made) : '');
          }}
        />
      )}
    </Modal>
  );
}
