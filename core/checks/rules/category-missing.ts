import { defineCheck } from '../define-check';

/** Said of a listing that no category's checks can judge, since it stands in none. */
export const categoryMissing = defineCheck({
  id: 'category-missing',
  level: 'blocker',
  docs: {
    title: 'Every item has a category',
    why: 'The market demands other facts in each category, and takes no item without one.',
    source: 'common practice',
  },
  messages: { missing: { title: 'No category chosen', says: 'This item has no category on {{market}}; choose one.' } },
});
