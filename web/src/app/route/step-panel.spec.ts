import type { StepForm } from '@kalvet/core';
import { bed, page, show } from '../testing/screen';
import { StepPanel } from './step-panel.component';

describe('the panel of a step that is somebody else’s to record', () => {
  const panel = async (kind: string, person: Parameters<typeof bed>[1], through: string | null = null) => {
    const http = bed([], person);
    const fixture = await show(StepPanel, { stepId: 's-1' });
    const step = { id: 's-1', kind, name: 'Step', on: 'OTT 1', through, state: 'planned', version: 1, waits: [] };
    http
      .expectOne('/api/steps/s-1/form')
      .flush({ step, casts: [], moulds: [], starts: {}, lift: [] } as unknown as StepForm);
    await fixture.whenStable();
    return page(fixture).textContent!.replace(/\s+/g, ' ');
  };

  it('says which room records it, who answers for it, or who pours', async () => {
    const oskar = { roles: ['hand' as const], rooms: ['shell' as const] };
    expect(await panel('pull', oskar)).toContain('recorded by who works in the wax room');
    const petra = { roles: ['hand' as const], rooms: ['wax' as const] };
    expect(await panel('approve-wax', petra)).toContain(
      'The wax approval is answered for by a production manager or room lead, or whoever it was given to by name.',
    );
    expect(await panel('pour', oskar, 'heat')).toContain('poured by a production manager or pour lead');
  });
});
