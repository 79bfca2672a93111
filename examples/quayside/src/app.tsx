import { Container, Group, SegmentedControl, Tabs, Text, Title } from '@mantine/core';
import { useState } from 'react';
import type { Whom } from './call-api.js';
import { AnnounceView } from './views/announce-view.js';
import { ArrivalsView } from './views/arrivals-view.js';
import { BerthsView } from './views/berths-view.js';
import { VesselsView } from './views/vessels-view.js';

const hashView = (): string => window.location.hash.slice(1) || 'arrivals';

/** The quayside page: for the public, and for ship's agents, who may announce a port call. */
export const App = () => {
  const [whom, setWhom] = useState<Whom>('public');
  const [view, setView] = useState(hashView);
  const go = (next: string): void => {
    window.history.replaceState(null, '', `#${next}`);
    setView(next);
  };
  return (
    <Tabs value={view} onChange={(next) => go(next ?? 'arrivals')} keepMounted={false} variant="pills">
      <header className="top">
        <Container size="lg">
          <Group justify="space-between" align="end">
            <div>
              <Title order={1} size="h2">
                Merrow Quayside
              </Title>
              <Text>Arrivals, vessels and berths of the Merrow Harbour Office</Text>
            </div>
            <SegmentedControl
              aria-label="You are"
              value={whom}
              onChange={(next) => setWhom(next as Whom)}
              data={[
                { value: 'public', label: 'The public' },
                { value: 'agent', label: 'A ship’s agent' },
              ]}
            />
          </Group>
          <Tabs.List mt="md" aria-label="Pages">
            <Tabs.Tab value="arrivals">Arrivals</Tabs.Tab>
            <Tabs.Tab value="vessels">Vessels</Tabs.Tab>
            <Tabs.Tab value="berths">Berths</Tabs.Tab>
            <Tabs.Tab value="announce">Announce a call</Tabs.Tab>
          </Tabs.List>
        </Container>
      </header>
      <Container size="lg" py="lg" component="main">
        <Tabs.Panel value="arrivals">
          <ArrivalsView whom={whom} />
        </Tabs.Panel>
        <Tabs.Panel value="vessels">
          <VesselsView whom={whom} />
        </Tabs.Panel>
        <Tabs.Panel value="berths">
          <BerthsView whom={whom} />
        </Tabs.Panel>
        <Tabs.Panel value="announce">
          <AnnounceView whom={whom} become={() => setWhom('agent')} />
        </Tabs.Panel>
      </Container>
      <footer>
        <Container size="lg" pb="lg">
          <Text size="sm">
            A made-up harbour. The form is checked in your browser by the very declaration that the server
            checks it by.
          </Text>
        </Container>
      </footer>
    </Tabs>
  );
};
