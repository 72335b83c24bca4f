// The language comes before everything else: words of tables are said as the code that holds them is read.
import { learnLanguage } from './frame/language';

await learnLanguage();
await import('./app');
