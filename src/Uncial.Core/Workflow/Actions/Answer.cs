namespace Uncial.Core.Workflow;

/// <summary>What an action lacks or has wrong.</summary>
public enum Answer
{
    /// <summary>A reason in words.</summary>
    Reason,

    /// <summary>A size that has to be measured first.</summary>
    Size,

    /// <summary>Which of several is meant.</summary>
    Choice,

    /// <summary>A name.</summary>
    Name,
}

/// <summary>Why a part is not taken in again.</summary>
public enum AgainRefusal
{
    /// <summary>It has not left yet.</summary>
    StillHere,

    /// <summary>It was scrapped: it must not come back.</summary>
    IsScrap,
}

/// <summary>What is wrong with a signature.</summary>
public enum SignatureFault
{
    /// <summary>Nobody who may sign was named.</summary>
    NoSigner,

    /// <summary>No PIN was typed.</summary>
    NoPin,

    /// <summary>The PIN is not that of the signer.</summary>
    WrongPin,

    /// <summary>After too many misses the next try has to wait.</summary>
    Wait,
}
