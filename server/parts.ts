// Parts of jobs that a thread beside may do.
import { refreshFamilyPage, refreshListingPage } from './listings';

export const parts = { 'refresh-families': refreshFamilyPage, 'refresh-listings': refreshListingPage } as const;
