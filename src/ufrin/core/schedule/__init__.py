"""Schedule: the steps of several jobs shared out among few people and things, within working hours.

It knows steps, people and things, not what they are; it imports nothing else of core.
"""
