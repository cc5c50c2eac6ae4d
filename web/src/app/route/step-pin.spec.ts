import { stepView } from '../testing/pieces';
import { bed, page, press, show } from '../testing/screen';
import { StepPin } from './step-pin.component';

describe('a date set by a person', () => {
  it('starts from the plan’s, and is sent with the version that was seen', async () => {
    const http = bed();
    const fixture = await show(StepPin, { step: stepView({ plannedStart: '2027-03-04T09:00:00.000Z' }) });
    let read = 0;
    fixture.componentInstance.saved.subscribe(() => read++);
    await press(fixture, '[data-test=pin]');
    await press(fixture, '[data-test=save-pin]');
    const call = http.expectOne('/api/steps/st-1/pin');
    expect(call.request.body).toEqual({ version: 3, kind: 'not before', at: '2027-03-04T09:00:00.000Z' });
    call.flush({ change: 5, stepId: 'st-1' });
    await fixture.whenStable();
    expect(read).toBe(1);
  });

  it('is shown, and taken off', async () => {
    const http = bed();
    const fixture = await show(StepPin, { step: stepView({ pinKind: 'at', pinAt: '2027-03-04T09:00:00.000Z' }) });
    expect(page(fixture).textContent).toContain('exactly at');
    await press(fixture, '[data-test=unpin]');
    expect(http.expectOne('/api/steps/st-1/pin').request.body).toEqual({ version: 3, kind: null, at: null });
  });

  it('is not offered for what is begun or done', async () => {
    bed();
    const fixture = await show(StepPin, { step: stepView({ state: 'running' }) });
    expect(page(fixture).textContent!.trim()).toBe('');
  });
});
