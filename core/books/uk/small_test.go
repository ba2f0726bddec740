package uk

import "dogbolt/core/job"

// small is a small board of the points' own that meets its rule behind a fuse of 100 A.
var small = job.Beside{Fitted: job.Yes, Where: "meter cupboard", Outdoors: job.No, Ways: 4, Rating: 63, BreakingKA: 6, Tails: 25, Length: 1.5, Blocks: 100, Earth: 16,
	Opens: job.OpensIsolator, Made: job.OfSteel}

// smallBut fits a small board that differs in one thing, where the old board has no room.
func smallBut(with func(*job.Beside)) change {
	return func(j *job.Job) {
		free := 0
		j.Survey.Board.WaysFree, j.Design.Beside = &free, small
		with(&j.Design.Beside)
	}
}

// smallBoards are the rows of a small board beside a full one, by the clauses and the table that its rule names.
var smallBoards = []row{
	{"no small board", none, "beside", "", ""},
	{"a small board, all of it known", smallBut(func(*job.Beside) {}), "beside", sound, "main switch 63 A, tails of 25 mm² and 1.5 m behind the fuse of 100 A, blocks of 100 A, 16 mm² to its earth bar"},
	{"something of a small board, and not whether it is fitted", smallBut(func(b *job.Beside) { b.Fitted = "" }), "beside", open, "whether the new board is fitted"},
	{"a small board, and a circuit that was there", both(smallBut(func(*job.Beside) {}), circuit(func(c *job.Circuit) { c.Existing = job.Yes })), "beside", stop, "it hangs on the old board"},
	{"a small board on TT", both(smallBut(func(*job.Beside) {}), onSupply(func(s *job.Supply) { s.System, s.ElectrodeRA = job.TT, 80 })), "beside", watch, ""},
	{"a small board, and circuits moved on the old one", both(smallBut(func(*job.Beside) {}), board(func(b *job.Board) { b.Rearrangement.At = 3 })), "board", open, "why circuits are moved"},
	{"a small board somewhere", smallBut(func(b *job.Beside) { b.Where = "" }), "beside", open, "where"},
	{"a small board, perhaps outdoors", smallBut(func(b *job.Beside) { b.Outdoors = "" }), "beside", open, "outdoors"},
	{"a small board indoors, and its IP code", smallBut(func(b *job.Beside) { b.IP = "IP43" }), "beside", open, "its IP code is entered"},
	{"a small board of nobody knows what", smallBut(func(b *job.Beside) { b.Made = "" }), "beside", open, "what the enclosure of the small board is made of"},
	{"a small board indoors of insulating material", smallBut(func(b *job.Beside) { b.Made = job.OfPlastic }), "beside", stop, "421.1.201"},
	{"a small board of insulating material in a cabinet of steel", smallBut(func(b *job.Beside) { b.Made = job.InCabinet }), "beside", sound, ""},
	{"a small board of insulating material in a workshop", smallBut(func(b *job.Beside) { b.Made = job.NoHousehold }), "beside", sound, ""},
	{"a small board outdoors, and what it is made of indoors", smallBut(func(b *job.Beside) { b.Outdoors, b.IP = job.Yes, "IP65" }), "beside", open, "whether the small board is outdoors"},
	{"a small board beside the old one, and circuits that move over", smallBut(func(b *job.Beside) { b.Taken = 9 }), "beside", open, "takes the place of the old one"},
	{"a small board outdoors of no code", smallBut(func(b *job.Beside) { b.Outdoors, b.Made = job.Yes, "" }), "beside", open, "IP code of the small board"},
	{"a small board outdoors of IP43", smallBut(func(b *job.Beside) { b.Outdoors, b.IP, b.Made = job.Yes, "IP43", "" }), "beside", stop, "IP43 outdoors"},
	{"a small board outdoors of IP44", smallBut(func(b *job.Beside) { b.Outdoors, b.IP, b.Made = job.Yes, "IP44", "" }), "beside", sound, ""},
	{"a small board of no main switch", smallBut(func(b *job.Beside) { b.Rating = 0 }), "beside", open, "main switch"},
	{"a small board's main switch of 31 A for 32 A", smallBut(func(b *job.Beside) { b.Rating = 31 }), "beside", stop, "main switch 31 A, the points draw 32 A"},
	{"a small board's main switch of 32 A for 32 A", smallBut(func(b *job.Beside) { b.Rating = 32 }), "beside", sound, ""},
	{"a small board, and no setting", both(smallBut(func(*job.Beside) {}), circuit(func(c *job.Circuit) { c.Setting = 0 })), "beside", open, "charger setting"},
	{"a small board behind a fuse of which nothing is known", both(smallBut(func(*job.Beside) {}), onSupply(func(s *job.Supply) { s.Rating = 0 })), "beside", open, "service's fuse"},
	{"tails of no size", smallBut(func(b *job.Beside) { b.Tails = 0 }), "beside", open, "size of the small board's tails"},
	{"tails of 16 mm² behind 100 A", smallBut(func(b *job.Beside) { b.Tails = 16 }), "beside", stop, "tails of 16 mm² behind a fuse of 100 A"},
	{"tails of 16 mm² behind 80 A", both(smallBut(func(b *job.Beside) { b.Tails = 16 }), onSupply(func(s *job.Supply) { s.Rating = 80 })), "beside", sound, ""},
	{"tails of 25 mm² behind 125 A", both(smallBut(func(b *job.Beside) { b.Blocks = 125 }), onSupply(func(s *job.Supply) { s.Rating = 125 })), "beside", stop, "behind a fuse of 125 A"},
	{"tails of no length", smallBut(func(b *job.Beside) { b.Length = 0 }), "beside", open, "length of the small board's tails"},
	{"tails of 3 m", smallBut(func(b *job.Beside) { b.Length = 3 }), "beside", sound, ""},
	{"tails of 3.1 m", smallBut(func(b *job.Beside) { b.Length = 3.1 }), "beside", stop, "tails of 3.1 m"},
	{"blocks of no rating", smallBut(func(b *job.Beside) { b.Blocks = 0 }), "beside", open, "connector blocks"},
	{"blocks of 80 A behind 100 A", smallBut(func(b *job.Beside) { b.Blocks = 80 }), "beside", stop, "connector blocks of 80 A"},
	{"no conductor to its earth bar", smallBut(func(b *job.Beside) { b.Earth = 0 }), "beside", open, "earth bar"},
	{"10 mm² to its earth bar beside tails of 25 mm²", smallBut(func(b *job.Beside) { b.Earth = 10 }), "beside", stop, "16 mm² by table 54.7"},
	{"nobody knows who opens the tails", smallBut(func(b *job.Beside) { b.Opens = "" }), "beside", open, "what makes dead what the small board is connected to"},
	{"the operator's fuse opens the tails", smallBut(func(b *job.Beside) { b.Opens = job.OpensOperator }), "beside", watch, "main switch 63 A"},
	{"no room, and none beside", func(j *job.Job) { free := 0; j.Survey.Board.WaysFree = &free }, "board", stop, "0 of 12 ways free"},
	{"no room, a small board beside it", smallBut(func(*job.Beside) {}), "board", sound, "small board of 4 ways, the devices of the points take 2"},
	{"a small board of one way", smallBut(func(b *job.Beside) { b.Ways = 1 }), "board", stop, "small board of 1 ways"},
	{"a small board of nobody knows how many ways", smallBut(func(b *job.Beside) { b.Ways = 0 }), "board", open, "ways of the small board"},
	{"the old board's main switch is small, the points are not behind it", both(smallBut(func(*job.Beside) {}), board(func(b *job.Board) { b.Rating = 40 })), "links", sound, "32.0 A with charging; 63 A"},
	{"devices of the small board break too little", both(smallBut(func(b *job.Beside) { b.BreakingKA = 1 }), circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 0 })), "breaking", stop, "device breaks 1 kA"},
	{"its label declares a conditional rating", both(smallBut(func(b *job.Beside) { b.BreakingKA, b.ConditionalKA = 1, 16 }), circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 0 })), "breaking", sound, "16 kA that the board's label declares"},
}
