package evidence

// Kind says how a character is scored.
type Kind uint8

// The four kinds of score.
const (
	Categorical Kind = iota // one or several named states
	Numeric                 // a positive measurement, log-normal within a taxon
	Sign                    // seen, or looked for and not seen
	Tally                   // pairs among nodes, or a plain claim of a class
)

// String gives the kind's name as the flora files write it.
func (k Kind) String() string {
	return [...]string{"categorical", "numeric", "sign", "tally"}[k]
}

// Error rates and other constants of the model.
const (
	// TallyError is the chance that a counted arrangement is a mistake
	// altogether: it is used only for taxa that have no such part.
	TallyError = 0.02
	// DefaultUnlisted is the prior of "something not in the pool".
	DefaultUnlisted = 0.02
	// MaxStates is the largest number of states one character can have.
	MaxStates = 64
)

// Character is one thing that can be scored, as the arithmetic sees it.
type Character struct {
	ID     string
	Kind   Kind
	States []string // categorical: states; tally: classes
	// Confusion[i][j] is c(i,j): given that state i was misread, the chance
	// that it was taken for j. Rows sum to 1 over the states other than i. A
	// missing row stands for equal shares. Categorical only.
	Confusion [][]float64
	// Shapes holds, for a tally, the beta-binomial parameters of the chance
	// that a node shows a pair, one per class.
	Shapes []Beta
}

// Beta holds the two positive parameters of a beta distribution.
type Beta struct{ Alpha, Beta float64 }

// Knowledge says whether a taxon has a value for a character.
type Knowledge uint8

// What a pool can know of one character of one taxon.
const (
	Unknown Knowledge = iota // the flora does not know; b(o) stands in
	Known
	Absent // the taxon has no such part; a score of it can only be a mistake
)

// Value is what one taxon says of one character.
type Value struct {
	Knowledge Knowledge
	Dist      []float64   // categorical and tally: chance of each state, summing to 1
	Normals   []Component // numeric: a mixture in ln x
	Chance    float64     // sign: chance that the tree shows it at all
}

// Component is one normal of a numeric value's mixture. Mean and Var are in
// ln of the character's unit; the weights of one value sum to 1.
type Component struct{ Weight, Mean, Var float64 }

// Taxon is one hypothesis of a pool. Group may be empty.
type Taxon struct {
	Name                 string
	Group, Genus, Family string
	Weight               float64 // abundance; the share is weight over the pool's sum
	Values               []Value // aligned with the model's characters
}

// Score is one answer. Which fields count follows from the character's kind.
type Score struct {
	Character int     // index into the model's characters
	States    uint64  // categorical, or a tally's plain claim: bit i is state i
	Error     float64 // e, 0 to 1: categorical, numeric, and a tally's plain claim

	Value    float64 // numeric: mean of the readings, in the character's unit, > 0
	Spread   float64 // numeric: relative spread s of one reading
	Readings int     // numeric: m, at least 1

	Seen   bool    // sign
	Detect float64 // sign: d, the chance that what is there is seen
	False  float64 // sign: f, the chance that what is not there is "seen"

	Pairs, Nodes int // tally; Nodes 0 means the score is a plain claim of States
}

// Look holds the scores made on one thing, and the chance that the thing is of
// the tree in question.
type Look struct {
	Belongs float64 // a, 0 to 1
	Scores  []Score
}
