package book

import (
	"fmt"

	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
)

// Result is what the looks at a tree come to.
type Result struct {
	Ranking    []Ranked  `json:"ranking" doc:"Every listed tree and the unlisted, best first"`
	Named      Name      `json:"named" doc:"How far the evidence carries a name; its words say too what is probable"`
	Probably   Name      `json:"probably" doc:"What it probably is, finer than that; of undetermined rank: nothing"`
	Says       string    `json:"says" doc:"How it stands, in one line with the chances"`
	Credible   []string  `json:"credible" doc:"Fewest taxa that hold 0.95 of the posterior"`
	CheckAgain []Check   `json:"check_again" doc:"Scores that, left out, would change the leader"`
	Fit        float64   `json:"fit" doc:"Share of drawn specimens of the leader that look as odd as this tree"`
	FitWords   string    `json:"fit_words"`
	Next       []Next    `json:"next" doc:"What to look at next, best first"`
	Warnings   []Warning `json:"warnings" doc:"What looks like a mistake"`
	Cautions   []Caution `json:"cautions" doc:"What to beware of with the trees still in it"`
}

// Ranked is one hypothesis and its posterior. Taxon is a scientific name, or
// "unlisted".
type Ranked struct {
	Taxon     string  `json:"taxon"`
	English   string  `json:"english"`
	Posterior float64 `json:"posterior"`
}

// Name is how far the tree can be named, and in words.
type Name struct {
	Rank      string  `json:"rank"`
	RankWords string  `json:"rank_words" doc:"As: to species"`
	Name      string  `json:"name"`
	Posterior float64 `json:"posterior"`
	Words     string  `json:"words"`
	Settled   bool    `json:"settled" doc:"It is a name, at whatever rank"`
}

// Check is a score that, left out, gives the tree another leader.
type Check struct {
	Look      int    `json:"look" doc:"Index among the looks"`
	Score     int    `json:"score"`
	Character string `json:"character"`
	Name      string `json:"name" doc:"The character's"`
	FromWords string `json:"from_words"`
	Leader    string `json:"leader" doc:"Who would lead without it"`
	English   string `json:"english" doc:"What that is called"`
}

// Next is a look not yet taken, and what it is worth.
type Next struct {
	Character string  `json:"character"`
	Name      string  `json:"name"`
	Look      string  `json:"look" doc:"How to look at it"`
	From      string  `json:"from" doc:"Kind of look it would be"`
	FromWords string  `json:"from_words"`
	Bits      float64 `json:"bits" doc:"Expected information"`

	Answerable float64 `json:"answerable" doc:"Chance that there is an answer: that the part is there, and that one can tell"`
	Vain       string  `json:"vain,omitempty" doc:"The chance that there is none, in words; absent: it is small"`

	Seconds   int      `json:"seconds"`
	PerMinute float64  `json:"bits_per_minute"`
	Harm      string   `json:"harm"`
	HarmWords string   `json:"harm_words" doc:"Empty: it does none"`
	Separates []string `json:"separates" doc:"The two leading trees it best tells apart"`
	Answers   []Answer `json:"answers" doc:"Its likelier answers, and who would lead after each"`
}

// Answer is one thing the look could show.
type Answer struct {
	Words     string  `json:"words"`
	Chance    float64 `json:"chance"`
	Leader    string  `json:"leader"`
	Posterior float64 `json:"posterior"`
}

// Ahead is a look at a tree and, after each of its answers, the look that best follows.
type Ahead struct {
	First   *Next    `json:"first,omitempty" doc:"Absent: no look tells much more"`
	Seconds float64  `json:"seconds" doc:"Expected for both looks, with turning to each"`
	Then    []Branch `json:"then"`
}

// Branch is an answer to the first look and what follows.
type Branch struct {
	Answer  string  `json:"answer"`
	Chance  float64 `json:"chance"`
	Leader  string  `json:"leader"`
	Settled bool    `json:"settled" doc:"The leader can be named to species: stop there"`
	Next    string  `json:"next,omitempty" doc:"Character to look at then"`
	Name    string  `json:"name,omitempty"`
	From    string  `json:"from,omitempty"`
}

// Warning is something that looks like a mistake, and why.
type Warning struct {
	Kind      string `json:"kind" enum:"stranger,never-together,older-bark,too-thick,memory-rule"`
	Look      int    `json:"look" doc:"Index of the look it is about, or -1"`
	Character string `json:"character,omitempty"`
	Words     string `json:"words"`
}

// Caution is something to beware of, and where the work meets it.
type Caution struct {
	Words string   `json:"words"`
	Where []string `json:"where" doc:"Sections of characters at which it bites"`
}

// result says in the book's shapes what a weighing came to.
func (s *shelf) result(res *answer.Result) Result {
	out := Result{Ranking: each(res.Ranking, ranked), Named: named(&res.Named),
		Probably: named(&res.Probably), Says: res.Says, Credible: listed(res.Credible),
		CheckAgain: each(res.CheckAgain, func(c answer.Check) Check { return s.check(c) }), Fit: res.Fit, FitWords: res.FitWords,
		Next:     each(res.Next, next),
		Warnings: each(res.Warnings, func(w answer.Warning) Warning { return Warning(w) }),
		Cautions: each(res.Cautions, func(c answer.Caution) Caution { return Caution(c) })}
	return out
}

func ranked(r answer.Ranked) Ranked {
	if r.Taxon == answer.Unlisted {
		r.English = answer.UnlistedWords
	}
	return Ranked(r)
}

func named(n *answer.Name) Name {
	words := answer.RankWords(n.Rank)
	return Name{string(n.Rank), words, n.Name, n.Posterior, n.Words, words != ""}
}

func (s *shelf) check(c answer.Check) Check {
	return Check{Look: c.Look, Score: c.Score, Character: c.Character, Name: s.characterName(c.Character),
		FromWords: record.Froms.Words(c.From), Leader: c.Leader, English: c.English}
}

func (s *shelf) characterName(id string) string {
	if c := s.flora.Character(id); c != nil {
		return c.Name
	}
	return id
}

func next(n answer.Next) Next {
	return Next{n.Character, n.Name, n.Look, n.From, record.Froms.Words(n.From), n.Bits, n.Answerable, vain(n.Answerable), n.Seconds,
		n.PerMinute, n.Harm, record.Harms.Words(n.Harm), listed(n.Separates),
		each(n.Answers, func(a answer.Answer) Answer { return Answer(a) })}
}

// often is the chance of an answer from which nobody need be told that there may be none.
const often = 0.8

func vain(answerable float64) string {
	if answerable >= often {
		return ""
	}
	return fmt.Sprintf("finds nothing %.0f times in 10", 10*(1-answerable))
}
