package jobs

import (
	"fmt"
	"sync"
	"testing"

	"dogbolt/core/job"
)

// TestDeskIsBounded: however many and however large jobs are used, what stays put together
// has a bound, and who asks for one job gets one.
func TestDeskIsBounded(t *testing.T) {
	d := newDesk()
	for i := range 3 * mostInUse {
		id := fmt.Sprint(i)
		u := d.take(id)
		u.job.Log = make([]job.Entry, i%50)
		d.put(id, u)
		u.job.Log = make([]job.Entry, i%60) // it grew, or somebody took it away
		d.put(id, u)
	}
	if d.jobs.Len() > mostInUse {
		t.Errorf("%d jobs", d.jobs.Len())
	}
	var sum int64
	for _, u := range d.jobs.Values() {
		sum += u.bytes.Load()
	}
	if sum != d.bytes.Load() || sum == 0 {
		t.Errorf("%d bytes are noted, %d are there", d.bytes.Load(), sum)
	}
	for i := range 10 {
		u := d.take(fmt.Sprint("large", i))
		u.size = bytesInUse / 4 / sectionInUse
		d.put(fmt.Sprint("large", i), u)
	}
	if d.bytes.Load() > bytesInUse {
		t.Errorf("%d bytes are in use", d.bytes.Load())
	}
	gone := d.take("gone")
	d.drop("gone")
	before := d.bytes.Load()
	if d.put("gone", gone); d.bytes.Load() != before || d.take("gone") == gone {
		t.Error("a job that was taken away came back")
	}
	first := d.take("one")
	var all sync.WaitGroup
	for range 20 {
		all.Go(func() {
			if d.take("one") != first {
				t.Error("two of one job")
			}
		})
	}
	all.Wait()
}
