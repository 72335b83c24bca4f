import { PageHead, Views } from '../ui/faces';
import { useUrlValue } from '../ui/url';
import { CategoriesView } from './CategoriesView';
import { FieldsView } from './FieldsView';
import { LanguagesView } from './LanguagesView';

const about = {
  fields: 'What can be kept of an item: the columns of the catalog, and what an import can fill.',
  categories: 'How our own goods are put in order. What is remembered for a category counts for those under it.',
  languages: 'Languages and currencies in which texts and prices of items are kept, beside English and GBP.',
};

/** What the house says of its own catalog: fields, categories, languages and currencies. */
export function OwnPage() {
  const [view, setView] = useUrlValue('view', 'fields');
  const now = view === 'categories' || view === 'languages' ? view : 'fields';
  return (
    <>
      <PageHead title="Our catalog" about={about[now]} />
      <Views
        label="Views of our catalog"
        now={now}
        onChoose={setView}
        views={[
          { key: 'fields', label: 'Fields' },
          { key: 'categories', label: 'Categories' },
          { key: 'languages', label: 'Languages and currencies' },
        ]}
      />
      {now === 'fields' ? <FieldsView /> : now === 'categories' ? <CategoriesView /> : <LanguagesView />}
    </>
  );
}
