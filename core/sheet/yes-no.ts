// Yes and no as they are written, and as spreadsheets write TRUE and FALSE in the language of who saved the file (from memory).

const yes = new Set(
  `y yes true 1 x on ✓ ✔ ja wahr oui vrai sí si verdadero vero sim verdadeiro waar sant sand tosi kyllä tak prawda ano pravda
  igen igaz da adevărat да истина evet doğru はい 真 有 نعم صح`.split(/\s+/),
);
const no = new Set(
  `n no false 0 off ✗ ✘ nein falsch non faux falso não nee onwaar nej falskt falsk epätosi ei nie fałsz ne nepravda nem hamis
  nu fals нет ложь hayır yanlış いいえ 偽 無 لا خطأ`.split(/\s+/),
);

/** Yes or no, in whatever language; undefined where it is neither. */
export function readYesNo(cell: string): 'yes' | 'no' | undefined {
  const word = cell.normalize('NFC').toLowerCase();
  if (yes.has(word)) return 'yes';
  return no.has(word) ? 'no' : undefined;
}
