// In which language this person reads: kept in the browser, fetched once before anything is shown.
import { readLanguage } from '@basileus/contract';
import { speakTo } from '@basileus/core/text';
import { inLanguage } from '../ui/language';
import { call } from '../api/call';

const place = 'basileus-language';
export const house = 'en';

export const keptLanguage = (): string => localStorage.getItem(place) ?? house;

/** Kept for the next look; pages that are open are loaded anew, since all of their words change. */
export function chooseLanguage(language: string): void {
  localStorage.setItem(place, language);
  window.location.reload();
}

/** From here on the chosen language is spoken; English where its file is gone or cannot be read. */
export async function learnLanguage(): Promise<void> {
  const language = keptLanguage();
  if (language === house) return;
  const tongue = await call(readLanguage, { params: { language } }).catch(() => undefined);
  if (!tongue) return;
  speakTo(() => tongue);
  const { dir = 'ltr' } = inLanguage(language.split('-', 1)[0]);
  Object.assign(document.documentElement, { lang: language, dir });
}
