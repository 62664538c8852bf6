/** Tabs over a panel. */
import { Tabs as Radix } from 'radix-ui';
import { type ReactNode } from 'react';

interface Tab {
  value: string;
  label: ReactNode;
  content: ReactNode;
}

/** Panels that share one place. The chosen one is underlined. */
export function Tabs({ label, tabs, value, onChange }: { label: string; tabs: Tab[]; value: string; onChange: (value: string) => void }) {
  return (
    <Radix.Root value={value} onValueChange={onChange} className="flex min-h-0 flex-1 flex-col">
      <Radix.List aria-label={label} className="flex shrink-0 flex-wrap border-b border-line px-1">
        {tabs.map((tab) => (
          <Radix.Trigger
            key={tab.value}
            value={tab.value}
            className="min-h-8 border-b-2 border-transparent px-2 text-sm whitespace-nowrap text-muted hover:text-text data-[state=active]:border-straw data-[state=active]:text-text"
          >
            {tab.label}
          </Radix.Trigger>
        ))}
      </Radix.List>
      {tabs.map((tab) => (
        <Radix.Content key={tab.value} value={tab.value} tabIndex={-1} className="min-h-0 flex-1 overflow-y-auto">
          {tab.content}
        </Radix.Content>
      ))}
    </Radix.Root>
  );
}
