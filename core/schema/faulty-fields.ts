/**
 * Which fields of an object break the rules of its class. The rules are class-validator's own, but what it finds out about
 * a class anew for every object is found out once here: a show of 10,000 clips is read many times faster.
 */
import { getMetadataStorage, type ValidationArguments, ValidationTypes } from 'class-validator';
import { type Constructor } from './fields';

interface FieldRules {
  name: string;
  /** False when the rules do not apply to this value: a field left out, or null where that is allowed. */
  applies: (object: object, value: unknown) => boolean;
  passes: (object: object, value: unknown) => boolean;
}

type Metadata = ReturnType<ReturnType<typeof getMetadataStorage>['getTargetValidationMetadatas']>[number];

function ruleOf(of: Constructor, metadata: Metadata): FieldRules['passes'] {
  const instances = getMetadataStorage()
    .getTargetValidatorConstraints(metadata.constraintCls)
    .map((constraint) => constraint.instance);
  return (object, value) => {
    const args: ValidationArguments = {
      targetName: of.name,
      property: metadata.propertyName,
      object,
      value,
      constraints: metadata.constraints as unknown[],
    };
    const values = metadata.each && Array.isArray(value) ? (value as unknown[]) : [value];
    return instances.every((instance) => values.every((v) => instance.validate(v, args) === true));
  };
}

function rulesOf(of: Constructor): FieldRules[] {
  const storage = getMetadataStorage();
  const byField = Object.entries(storage.groupByPropertyName(storage.getTargetValidationMetadatas(of, '', false, false)));
  return byField.map(([name, all]) => {
    const conditions = all
      .filter((m) => m.type === ValidationTypes.CONDITIONAL_VALIDATION)
      .map((m) => (m.constraints as FieldRules['applies'][])[0] as FieldRules['applies']);
    const rules = all.filter((m) => m.type === ValidationTypes.CUSTOM_VALIDATION).map((m) => ruleOf(of, m));
    return {
      name,
      applies: (object, value) => conditions.every((holds) => holds(object, value)),
      passes: (object, value) => rules.every((rule) => rule(object, value)),
    };
  });
}

const known = new WeakMap<Constructor, FieldRules[]>();

/** Names of the fields of `object`, read as an instance of `of`, whose values break its rules. */
export function faultyFields(of: Constructor, object: Record<string, unknown>): string[] {
  let rules = known.get(of);
  if (!rules) known.set(of, (rules = rulesOf(of)));
  return rules.filter(({ name, applies, passes }) => applies(object, object[name]) && !passes(object, object[name])).map((r) => r.name);
}
