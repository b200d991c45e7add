"""Care: cautions that go with the work, by the day's weather and the way of pouring."""
