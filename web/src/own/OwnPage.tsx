import { PageHead, Views } from '../ui/faces';
import { useUrlValue } from '../ui/url';
import { CategoriesView } from './CategoriesView';
import { FieldsView } from './FieldsView';
import { LanguagesView } from './LanguagesView';
import { PicturesView } from './PicturesView';
import { say } from '../ui/text';

const about = {
  fields: say`What can be kept of an item: the columns of the catalog, and what an import can fill.`,
  categories: say`How our own goods are put in order. What is remembered for a category counts for those under it.`,
  pictures: say`Where the pictures of our items are. Of a host that may be asked each picture is fetched, judged by what the markets take, and shown small in tables.`,
  languages: say`Languages and currencies in which texts and prices of items are kept, beside English and GBP.`,
};

/** What the house says of its own catalog: fields, categories, languages and currencies. */
export function OwnPage() {
  const [view, setView] = useUrlValue('view', 'fields');
  const now = view === 'categories' || view === 'languages' || view === 'pictures' ? view : 'fields';
  return (
    <>
      <PageHead title={say`Our catalog`} about={about[now]} />
      <Views
        label={say`Views of our catalog`}
        now={now}
        onChoose={setView}
        views={[
          { key: 'fields', label: say`Fields` },
          { key: 'categories', label: say`Categories` },
          { key: 'languages', label: say`Languages and currencies` },
          { key: 'pictures', label: say`Pictures` },
        ]}
      />
      {now === 'fields' ? (
        <FieldsView />
      ) : now === 'categories' ? (
        <CategoriesView />
      ) : now === 'pictures' ? (
        <PicturesView />
      ) : (
        <LanguagesView />
      )}
    </>
  );
}
