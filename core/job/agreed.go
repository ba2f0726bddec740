package job

// Subjects of settings that are agreed with the customer and change nothing of what was built: who decides when it
// charges, whose the account of the charger's app is, and who may start it.
const (
	Scheduler = "scheduler"
	Account   = "account"
	Access    = "access"
)

// AgreedWords are the answers of what is agreed with the customer, by its subject.
func AgreedWords(subject string) []Word { return agreed[subject] }

var agreed = map[string][]Word{
	Scheduler: {{"car", "the car"}, {"charger", "the charger"}},
	Account:   {{"customer", "the customer"}, {"contractor", "us, for now"}, {"none", "it has none"}},
	Access:    {{"open", "anyone at the charger"}, {"app", "who has the app"}, {"card", "who has a card or key"}, {"code", "who knows its code"}},
}
