import { isFilled, isSameValue, toText } from '../../listing/values';
import { tellsFamilies } from '../../rulebook/families';
import { defineCheck } from '../define-check';

/** A family shows as one page with a choice: every variant needs its own values on the axes, and the rest must agree. */
export const familyRules = defineCheck({
  id: 'family-rules',
  level: 'blocker',
  docs: {
    title: 'Families are whole',
    why: 'Markets refuse variants that cannot be told apart or that contradict their family.',
    source: 'common practice; axes and shared fields from the rulebook',
  },
  messages: {
    axisMissing: {
      title: '“{{field}}” is missing on variants',
      says: '“{{field}}” is empty; the family {{parent}} is divided by it, so every variant needs its own.',
    },
    axisNotAllowed: {
      title: 'Family divided by a field that is not allowed',
      says: 'The family is divided by {{field}}; {{category}} allows {{allowed:and}}.',
    },
    noFamilies: {
      title: 'Family in a category that takes none',
      says: '{{category}} takes no families; put its variants in as single items.',
    },
    noAxis: {
      title: 'Family without a field to choose by',
      says: 'The family {{parent}} names no field to choose by; {{category}} allows {{allowed:and}}.',
    },
    tooManyAxes: {
      title: 'Family divided by too many fields',
      says: 'The family is divided by {{count|field|fields}}; {{market}} takes {{max}}.',
    },
    duplicate: {
      title: 'Variants cannot be told apart',
      says: '{{field}} “{{value}}” is the same as on {{other}}; two variants cannot be told apart.',
    },
    sharedDiffers: {
      title: '{{field}} differs within the family',
      says: '{{field}} is “{{value}}”, but the family {{parent}} has “{{shared}}”; shared fields must agree.',
    },
    tooLarge: {
      title: 'Family with too many variants',
      says: 'The family has {{count|variant|variants}}; {{market}} takes {{max}} in one.',
    },
    parentIdentifier: {
      title: 'Family row with a number of its own',
      says: 'The family row carries the number {{value}}; only its variants can be bought and carry one.',
    },
    noVariants: {
      title: 'Family without variants',
      says: 'The family has no variants; add some, or make it a single item.',
    },
    parentMissing: {
      title: 'Family row is not on this market',
      says: 'The family row {{parent}} is not on this market; put it into the same category first.',
    },
  },
  prepareRow(category, say) {
    const identifier = category.rulebook.roles.identifier;
    const shared = category.attributes
      .filter((a) => a.attribute.shared && a.strongest !== 'unused')
      .map((a) => a.attribute.key);
    const labelOf = (k: string) => category.byKey.get(k)?.attribute.label ?? k;
    const allowed = category.axes.map(labelOf);
    const takesFamilies = allowed.length > 0,
      hasRows = category.rulebook.families.parents !== 'none',
      { maxVariants } = category.rulebook.families;
    // Where no file has a place for it, the market knows of no families: each variant is an item by itself there.
    if (!tellsFamilies(category.rulebook)) return () => undefined;
    return (listing, context, out) => {
      if (listing.role === 'single') return;
      const axes = listing.axes;
      const parentSku = listing.parentSku ?? listing.sku;
      if (!takesFamilies) say(out, 'noFamilies', axes[0] ?? identifier, undefined, { category: category.label });
      else
        for (const axis of axes)
          if (!category.axes.includes(axis))
            say(out, 'axisNotAllowed', axis, listing.values[axis], { category: category.label, allowed });
      if (axes.length === 0 && takesFamilies)
        say(out, 'noAxis', category.axes[0] ?? identifier, undefined, {
          parent: parentSku,
          category: category.label,
          allowed,
        });
      if (axes.length > category.rulebook.families.maxAxes)
        say(out, 'tooManyAxes', axes[0]!, undefined, { count: axes.length, max: category.rulebook.families.maxAxes });
      if (maxVariants !== undefined && context.family && (listing.role === 'parent' || !hasRows)) {
        const others = context.family.filter((f) => f.role === 'variant').length;
        const count = listing.role === 'parent' ? others : others + 1;
        if (count > maxVariants) say(out, 'tooLarge', axes[0] ?? identifier, undefined, { count, max: maxVariants });
      }
      if (listing.role === 'parent') {
        if (isFilled(listing.values[identifier]) && !category.rulebook.families.parentsCarryIdentifiers)
          say(out, 'parentIdentifier', identifier, listing.values[identifier], {}, [
            { kind: 'clear', field: identifier, safe: true },
          ]);
        if (context.family && !context.family.some((f) => f.role === 'variant'))
          say(out, 'noVariants', axes[0] ?? identifier, undefined, {});
        return;
      }
      for (const axis of axes)
        if (!isFilled(listing.values[axis]))
          say(out, 'axisMissing', axis, undefined, { parent: parentSku }, [{ kind: 'fill', field: axis }]);
      if (!context.family) return;
      const parent = hasRows ? context.family.find((f) => f.role === 'parent') : undefined;
      if (hasRows && !parent) say(out, 'parentMissing', axes[0] ?? identifier, undefined, { parent: parentSku });
      const filled = axes.length > 0 && axes.every((a) => isFilled(listing.values[a]));
      const twin = filled
        ? context.family.find(
            (f) =>
              f.role === 'variant' &&
              f.sku !== listing.sku &&
              axes.every((a) => isSameValue(f.values[a], listing.values[a])),
          )
        : undefined;
      if (twin)
        say(out, 'duplicate', axes[0]!, axes.map((a) => toText(listing.values[a])).join(', '), { other: twin.sku }, [
          { kind: 'fill', field: axes[0]! },
        ]);
      // Where the family has no row of its own, its variants agree with the first of them.
      const model = hasRows ? parent : findFirst(context.family, listing.sku);
      if (model)
        for (const key of shared) {
          if (axes.includes(key)) continue;
          const theirs = model.values[key],
            ours = listing.values[key];
          if (isFilled(theirs) && isFilled(ours) && !isSameValue(theirs, ours))
            say(out, 'sharedDiffers', key, ours, { parent: parentSku, shared: toText(theirs) }, [
              { kind: 'set', field: key, value: theirs!, safe: false },
            ]);
        }
    };
  },
});

/** The first variant of a family by its SKU, where it is not this one. */
function findFirst<T extends { sku: string; role: string }>(family: readonly T[], own: string): T | undefined {
  const first = family
    .filter((f) => f.role === 'variant')
    .reduce<T | undefined>((least, f) => (least === undefined || f.sku < least.sku ? f : least), undefined);
  return first !== undefined && first.sku < own ? first : undefined;
}
