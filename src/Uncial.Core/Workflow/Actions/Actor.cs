namespace Uncial.Core.Workflow;

/// <summary>What somebody may do in the shop, from the least to the most.</summary>
public enum Role
{
    /// <summary>Measures, plans, cuts, confirms and releases.</summary>
    Operator,

    /// <summary>Signs for what an operator may not decide alone.</summary>
    Lead,

    /// <summary>Keeps people and the rules of the shop; may do what a lead may.</summary>
    Owner,
}

/// <summary>Who acts, in which role, and when.</summary>
/// <param name="Id">Key of the person.</param>
/// <param name="Role">Role at that time.</param>
/// <param name="At">When, by the server's clock.</param>
public readonly record struct Actor(int Id, Role Role, DateTimeOffset At)
{
    /// <summary>Whether this person may do what takes a role.</summary>
    public bool IsAtLeast(Role role) => Role >= role;
}
