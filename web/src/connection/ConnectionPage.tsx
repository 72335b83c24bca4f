import { changeMarket, type readMarket } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Loading, PageHead, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { count, say } from '../ui/text';
import { KeyField } from './KeyField';
import { KeyPair } from './KeyPair';
import { UserField } from './UserField';
import { connectionQuery } from './queries';
import { MadePrices } from './MadePrices';
import { Rates } from './Rates';
import { StockRules } from './StockRules';
import { RemoveMarket } from './RemoveMarket';
import { TryConnection } from './TryConnection';
import { tell } from '../ui/tell';

type Connection = z.output<typeof readMarket.response>;

/** How a market is reached, what is published there, and whether it is left alone for a while. */
export function ConnectionPage() {
  const { market, name } = useScope();
  const { data, error, isLoading, refetch } = useQuery(connectionQuery(market));
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} again={() => void refetch()} />;
  return (
    <>
      <PageHead
        title={say`Connection to ${name}`}
        about={say`${count(data.listings)} listings, ${count(data.live)} live · rulebook ${data.version}`}
      />
      <div className="min-h-0 flex-1 overflow-auto border-t border-base-300 p-5">
        <ConnectionForm key={data.key} connection={data} />
      </div>
    </>
  );
}

function ConnectionForm({ connection: c }: { connection: Connection }) {
  const client = useQueryClient();
  const [url, setUrl] = useState(c.url ?? ''),
    [user, setUser] = useState(c.user ?? ''),
    [secret, setSecret] = useState(''),
    [isRemoving, setRemoving] = useState(false);
  const save = useMutation({
    mutationFn: (body: z.input<typeof changeMarket.body>) => call(changeMarket, { params: { market: c.key }, body }),
    onSuccess: () => {
      toast.success(say`Saved.`);
      void client.invalidateQueries();
    },
  });
  return (
    <div className="flex max-w-2xl flex-col gap-5">
      {c.transport === 'by-hand' ? (
        <p className="panel p-4">
          {tell`${c.name} takes files by hand: they are downloaded under Send and brought to the market by a person; its answer is given back at the dispatch under Settle.`}
        </p>
      ) : (
        <form
          className="panel flex flex-col gap-3 p-4"
          onSubmit={(e) => {
            e.preventDefault();
            save.mutate(
              {
                url: url.trim() || null,
                ...(c.transport === 'sftp' ? { user: user.trim() || null } : {}),
                ...(secret === '' ? {} : { secret }),
              },
              {
                onSuccess: () => {
                  setSecret('');
                },
              },
            );
          }}
        >
          <h2 className="text-lg">{say`Address`}</h2>
          <label className="flex flex-col gap-1">
            <span className="text-sm">
              {tell`${c.transport === 'sftp' ? say`Address of its folders` : say`Web address`} that the market gave you`}
            </span>
            <input
              className="input input-sm num w-full"
              value={url}
              placeholder={
                c.transport === 'sftp' ? say`sftp://files.market.example:22/seller` : 'https://market.example/seller'
              }
              onChange={(e) => {
                setUrl(e.target.value);
              }}
            />
          </label>
          {c.transport === 'sftp' && <UserField user={user} onChange={setUser} />}
          {c.asksKey && (
            <KeyField secret={secret} since={c.keySince} onChange={setSecret} isPair={c.publicKey !== null} />
          )}
          {c.transport === 'sftp' && (
            <KeyPair
              market={c.key}
              publicKey={c.publicKey}
              isKept={c.keySince !== null}
              secret={secret}
              onChange={setSecret}
            />
          )}
          <p className="quiet text-sm">
            {say`Nothing is ever asked of another address, whatever a rulebook or an answer says.`}
          </p>
          {c.host !== null && (
            <KnownHost
              host={c.host}
              isPending={save.isPending}
              onForget={() => {
                save.mutate({ forgetHost: true });
              }}
            />
          )}
          <div className="flex flex-wrap items-center gap-3">
            <TryConnection market={c.key} url={url} user={c.transport === 'sftp' ? user.trim() : ''} secret={secret} />
            <button
              type="submit"
              className="btn btn-sm btn-primary"
              disabled={save.isPending || (url === (c.url ?? '') && user === (c.user ?? '') && secret === '')}
            >
              {tell`Save ${c.asksKey ? say`address and key` : say`the address`}`}
            </button>
          </div>
        </form>
      )}
      <StockRules
        key={JSON.stringify(c.settings)}
        connection={c}
        isBusy={save.isPending}
        onSave={(change) => {
          save.mutate(change);
        }}
      />
      <Rates market={c.key} />
      <MadePrices
        key={JSON.stringify(c.settings.prices)}
        market={c.key}
        settings={c.settings}
        isBusy={save.isPending}
        onSave={(change) => {
          save.mutate(change);
        }}
      />
      <section className="panel flex flex-col items-start gap-3 p-4">
        <h2 className="text-lg">{c.isPaused ? say`Paused` : say`Pause`}</h2>
        <p className="quiet">
          {c.isPaused
            ? say`${c.name} is neither sent to nor asked. What waits goes when it is resumed.`
            : say`A paused market is neither sent to nor asked; you can go on preparing and checking.`}
        </p>
        <button
          type="button"
          className="btn btn-sm"
          disabled={save.isPending}
          onClick={() => {
            save.mutate({ isPaused: !c.isPaused });
          }}
        >
          {c.isPaused ? say`Resume` : say`Pause this market`}
        </button>
      </section>
      {save.error && <Refused error={save.error} />}
      <button
        type="button"
        className="btn btn-sm w-fit text-error"
        onClick={() => {
          setRemoving(true);
        }}
      >
        {say`Remove this market …`}
      </button>
      {isRemoving && (
        <RemoveMarket
          connection={c}
          onClose={() => {
            setRemoving(false);
          }}
        />
      )}
    </div>
  );
}

/** What the market's host showed at the first visit; another one is told nothing until a person says so. */
function KnownHost({ host, isPending, onForget }: { host: string; isPending: boolean; onForget: () => void }) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 text-sm">
      <p className="quiet">
        {tell`Its host showed ${(<span className="num">{host}</span>)}; one that shows another key is told nothing.`}
      </p>
      <button type="button" className="btn btn-xs" disabled={isPending} onClick={onForget}>
        {say`The market has a new host key`}
      </button>
    </div>
  );
}
