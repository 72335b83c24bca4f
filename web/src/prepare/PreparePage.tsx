import { useQuery } from '@tanstack/react-query';
import { useScope, rulebookQuery } from '../frame/scope';
import { Loading, PageHead, Refused, Views } from '../ui/faces';
import { useUrlValue } from '../ui/url';
import { CategoriesView } from './CategoriesView';
import { FieldsView } from './FieldsView';
import { ListingsView } from './ListingsView';
import { LookUpView } from './LookUpView';
import { ValuesView } from './ValuesView';
import { say } from '../ui/text';

export function PreparePage() {
  const { market, name } = useScope();
  const [view, setView] = useUrlValue('view', 'listings');
  const { data: rulebook, error, isLoading } = useQuery(rulebookQuery(market));
  if (error) return <Refused error={error} />;
  if (isLoading || !rulebook) return <Loading />;
  return (
    <>
      <PageHead title={say`Prepare for ${name}`} />
      <Views
        label={say`Views of Prepare`}
        now={view}
        onChoose={setView}
        views={[
          { key: 'listings', label: say`Listings` },
          { key: 'categories', label: say`Categories` },
          { key: 'fields', label: say`Fields` },
          { key: 'values', label: say`Values` },
          { key: 'look-up', label: say`Look up` },
        ]}
      />
      {view === 'categories' ? (
        <CategoriesView rulebook={rulebook} />
      ) : view === 'fields' ? (
        <FieldsView rulebook={rulebook} />
      ) : view === 'values' ? (
        <ValuesView rulebook={rulebook} />
      ) : view === 'look-up' ? (
        <LookUpView rulebook={rulebook} />
      ) : (
        <ListingsView rulebook={rulebook} />
      )}
    </>
  );
}
