import { listTemplates, putTemplate, removeTemplate } from '@basileus/contract';
import type { SaidOfTemplate } from '@basileus/core/template';
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../api/call';
import { Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { FileButton } from '../ui/FileButton';
import { say } from '../ui/text';

const templatesQuery = (market: string) =>
  queryOptions({
    queryKey: ['markets', 'templates', market],
    queryFn: () => call(listTemplates, { params: { market } }),
  });

/** Brings a market's blank template: files of the form are written into it from then on. */
export const bringTemplate = (
  market: string,
  form: string,
  file: File,
  { sheet, firstRow }: SaidOfTemplate = {},
): Promise<unknown> => {
  const body = new FormData();
  body.append('file', file);
  const query = {
    ...(sheet === undefined ? {} : { sheet }),
    // People count rows from 1.
    ...(firstRow === undefined ? {} : { firstRow: firstRow + 1 }),
  };
  return call(putTemplate, { params: { market, form }, query, form: body });
};

/** The market's own template that a form is written into, where it is a workbook; brought, replaced and forgotten here. */
export function OwnTemplate({ market, form }: { market: string; form: string }) {
  const client = useQueryClient();
  const kept = useQuery(templatesQuery(market)).data?.rows.find((t) => t.form === form);
  const onSuccess = () => void client.invalidateQueries({ queryKey: ['markets', 'templates', market] });
  const bring = useMutation({
    mutationFn: (file: File) => bringTemplate(market, form, file),
    onSuccess: () => {
      toast.success(say`Files are written into this template from now on.`);
      onSuccess();
    },
  });
  const forget = useMutation({
    mutationFn: () => call(removeTemplate, { params: { market, form } }),
    onSuccess,
    onError: (e) => toast.error(e.message),
  });
  return (
    <>
      <div className="mb-2 flex flex-wrap items-center gap-2 text-sm">
        <p>
          {kept
            ? say`Written into the market’s own “${kept.name}”, sheet “${kept.sheet}”, from row ${kept.firstRow} on.`
            : say`A workbook of one sheet. Bring the blank template that the market gives out, and rows are written into that.`}
        </p>
        <FileButton
          label={say`Blank template of the market`}
          accept=".xlsx,.xlsm"
          disabled={bring.isPending}
          className="btn btn-xs"
          onFiles={(f) => {
            bring.mutate(f);
          }}
        >
          {kept ? say`Bring a newer one …` : say`Bring the template …`}
        </FileButton>
        {kept && (
          <button
            type="button"
            className="btn btn-xs"
            disabled={forget.isPending}
            onClick={() => {
              forget.mutate();
            }}
          >
            {say`Forget it`}
          </button>
        )}
      </div>
      {bring.error && <Refused error={bring.error} />}
    </>
  );
}
