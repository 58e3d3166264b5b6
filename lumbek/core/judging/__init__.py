"""From a question to a judgement: how one is asked and answered, one circuit, a range of lengths, a whole job."""
